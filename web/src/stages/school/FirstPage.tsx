import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useBeginSchool } from "../../api/school";
import { useWho } from "../../api/who";
import { ButtonLink, MainButton } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Frame } from "../../ui/Frame";
import { Column, Form, Narrow, Soft } from "../../ui/layout";
import { NewPassword } from "../../ui/passwords";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { YourName } from "./YourName";

/** The first account of a new installation, with the code that stands in the terminal. */
export function FirstPage() {
  const who = useWho();
  const begin = useBeginSchool();
  const navigate = useNavigate();
  const [typed, setTyped] = useState({ code: "", username: "", password: "" });
  if (!who.data) return <Waiting title={t`First account`} error={who.error} />;
  return (
    <Frame title={t`First account`}>
      <Column>
        <Narrow>
          <h1>
            <Trans>The first account</Trans>
          </h1>
          {!who.data.first ? (
            <>
              <Soft>
                <Trans>
                  This school has its first account. Sign in, or ask the head of its accounts for an invitation.
                </Trans>
              </Soft>
              <p>
                <ButtonLink to={who.data.teacher ? "/labs" : "/sign-in"}>
                  {who.data.teacher ? t`Your labs` : t`Sign in`}
                </ButtonLink>
              </p>
            </>
          ) : (
            <Form
              onSubmit={(event) => {
                event.preventDefault();
                begin.mutate(typed, { onSuccess: () => navigate("/labs", { replace: true }) });
              }}
            >
              <Soft>
                <Trans>
                  Nobody has an account here yet. Yours will head the school’s accounts: you can then invite colleagues
                  from the page “School”, without the terminal.
                </Trans>
              </Soft>
              <TextField
                label={t`Code`}
                hint={t`It stands in the window where Pipette was started.`}
                value={typed.code}
                onChange={(code) => setTyped((now) => ({ ...now, code }))}
                autoComplete="off"
                spellCheck="false"
                maxLength={80}
                isRequired
                autoFocus
              />
              <YourName value={typed.username} change={(username) => setTyped((now) => ({ ...now, username }))} />
              <NewPassword value={typed.password} change={(password) => setTyped((now) => ({ ...now, password }))} />
              <ProblemNote problem={begin.error} />
              <MainButton type="submit">{begin.isPending ? t`One moment…` : t`Make the account`}</MainButton>
            </Form>
          )}
        </Narrow>
      </Column>
    </Frame>
  );
}
