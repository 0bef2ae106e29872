import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { useSignIn } from "../api/who";
import { MainButton } from "../ui/Button";
import { TextField } from "../ui/fields";
import { Column, Form, Narrow, Soft } from "../ui/layout";
import { Frame } from "../ui/Frame";
import { Forgotten } from "./Forgotten";
import { language } from "../language";
import { LanguageChoice } from "../ui/LanguageChoice";
import { ProblemNote } from "../ui/ProblemNote";

/** Teachers sign in; a teacher sent here from a page goes back to it. */
export function SignInPage() {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const signIn = useSignIn();
  const asked = signIn.error?.body.field === "code" || code !== "";
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const next = pathname === "/sign-in" ? "/labs" : pathname;
  const submit = () =>
    signIn.mutate(
      { username, password, code },
      {
        onSuccess: (who) => {
          if (who.language && who.language !== language) window.location.replace(next);
          else navigate(next, { replace: true });
        },
      },
    );
  return (
    <Frame title={t`Sign in`}>
      <Column>
        <Narrow>
          <h1>
            <Trans>Teachers sign in</Trans>
          </h1>
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              submit();
            }}
          >
            <TextField
              label={t`Name`}
              value={username}
              onChange={setUsername}
              autoComplete="username"
              isRequired
              maxLength={150}
              autoFocus
            />
            <TextField
              label={t`Password`}
              type="password"
              value={password}
              onChange={setPassword}
              autoComplete="current-password"
              isRequired
              maxLength={200}
            />
            {asked && (
              <TextField
                label={t`Code of your app`}
                hint={t`Or one of your recovery codes.`}
                value={code}
                onChange={setCode}
                autoComplete="one-time-code"
                spellCheck="false"
                isRequired
                maxLength={40}
                autoFocus
              />
            )}
            <ProblemNote problem={signIn.error} />
            <MainButton type="submit">{signIn.isPending ? t`One moment…` : t`Sign in`}</MainButton>
          </Form>
          <Forgotten username={username} />
          <Soft>
            <Trans>
              Students need no account: <Link to="/join">join with a code</Link>.
            </Trans>
          </Soft>
          <LanguageChoice />
        </Narrow>
      </Column>
    </Frame>
  );
}
