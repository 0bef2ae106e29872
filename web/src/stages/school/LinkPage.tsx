import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { useLookAtLink, useUseLink } from "../../api/school";
import { moment } from "../../format";
import { ButtonLink, MainButton } from "../../ui/Button";
import { Frame } from "../../ui/Frame";
import { Column, Form, Narrow, Soft } from "../../ui/layout";
import { NewPassword } from "../../ui/passwords";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { YourName } from "./YourName";

/** Behind an invitation, or a link for a new password. */
export function LinkPage() {
  const secret = useLocation().hash.slice(1);
  const look = useLookAtLink(secret);
  const use = useUseLink();
  const navigate = useNavigate();
  const [typed, setTyped] = useState({ username: "", password: "" });
  if (secret === "" || look.error)
    return (
      <Frame title={t`Link`}>
        <Column>
          <h1>
            <Trans>This link does not open</Trans>
          </h1>
          <Soft>
            {look.error
              ? look.error.message
              : t`A part of it is missing. Copy it whole, with what stands behind the #.`}
          </Soft>
          <p>
            <ButtonLink to="/sign-in">
              <Trans>Sign in</Trans>
            </ButtonLink>
          </p>
        </Column>
      </Frame>
    );
  if (!look.data) return <Waiting title={t`Link`} error={null} />;
  const invited = look.data.kind === "invite";
  return (
    <Frame title={invited ? t`Invitation` : t`New password`}>
      <Column>
        <Narrow>
          <h1>{invited ? t`Your account` : t`A new password for ${look.data.name}`}</h1>
          <Soft>
            {invited
              ? t`${look.data.made_by} invites you${look.data.name ? ` (“${look.data.name}”)` : ""}. The link works once, until ${moment(look.data.ends_at)}.`
              : t`The link works once. You are signed out in all other browsers.`}
          </Soft>
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              use.mutate(
                { secret, ...typed },
                { onSuccess: (who) => navigate(who.teacher ? "/labs" : "/sign-in", { replace: true }) },
              );
            }}
          >
            {invited && (
              <YourName value={typed.username} change={(username) => setTyped((now) => ({ ...now, username }))} focus />
            )}
            <NewPassword value={typed.password} change={(password) => setTyped((now) => ({ ...now, password }))} />
            <ProblemNote problem={use.error} />
            <MainButton type="submit">
              {use.isPending ? t`One moment…` : invited ? t`Make the account` : t`Set this password`}
            </MainButton>
          </Form>
        </Narrow>
      </Column>
    </Frame>
  );
}
