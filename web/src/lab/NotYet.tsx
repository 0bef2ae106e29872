import { Frame } from "../ui/Frame";
import { ButtonLink } from "../ui/Button";
import { Column, Soft } from "../ui/layout";

/** What to say while the teacher has not shown it. */
export function NotYet() {
  return (
    <Frame title="Class results">
      <Column>
        <h1>Not shown yet</h1>
        <Soft>Your teacher decides when the class’s results are shown. Your own readings stay on your bench.</Soft>
        <p>
          <ButtonLink to="/bench">To the bench</ButtonLink>
        </p>
      </Column>
    </Frame>
  );
}
