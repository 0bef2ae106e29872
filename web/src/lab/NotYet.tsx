import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Frame } from "../ui/Frame";
import { ButtonLink } from "../ui/Button";
import { Column, Soft } from "../ui/layout";

/** What to say while the teacher has not shown it. */
export function NotYet() {
  return (
    <Frame title={t`Class results`}>
      <Column>
        <h1>
          <Trans>Not shown yet</Trans>
        </h1>
        <Soft>
          <Trans>Your teacher decides when the class’s results are shown. Your own readings stay on your bench.</Trans>
        </Soft>
        <p>
          <ButtonLink to="/bench">
            <Trans>To the bench</Trans>
          </ButtonLink>
        </p>
      </Column>
    </Frame>
  );
}
