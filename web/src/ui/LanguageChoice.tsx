import { Fragment } from "react";
import { useLanguageChange } from "../api/language";
import { LANGUAGES, type Language, language } from "../language";
import { TextButton } from "./Button";
import { Soft } from "./layout";
import { ProblemNote } from "./ProblemNote";

/** The languages Pipette speaks, each in its own words; the page comes anew in the one that is chosen. */
export function LanguageChoice() {
  const change = useLanguageChange();
  const others = (Object.keys(LANGUAGES) as Language[]).filter((one) => one !== language);
  return (
    <div>
      <Soft>
        {LANGUAGES[language]}
        {others.map((one) => (
          <Fragment key={one}>
            {" · "}
            <TextButton onPress={() => change.mutate(one, { onSuccess: () => window.location.reload() })}>
              <span lang={one}>{LANGUAGES[one]}</span>
            </TextButton>
          </Fragment>
        ))}
      </Soft>
      <ProblemNote problem={change.error} />
    </div>
  );
}
