import { useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { useSignIn } from "../api/who";
import { MainButton } from "../ui/Button";
import { TextField } from "../ui/fields";
import { Column, Form, Narrow, Soft } from "../ui/layout";
import { ProblemNote } from "../ui/ProblemNote";
import { Frame } from "../ui/Frame";

/** Teachers sign in; a teacher sent here from a page goes back to it. */
export function SignInPage() {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useSignIn();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const submit = () =>
    signIn.mutate(
      { username, password },
      { onSuccess: () => navigate(pathname === "/sign-in" ? "/labs" : pathname, { replace: true }) },
    );
  return (
    <Frame title="Sign in">
      <Column>
        <Narrow>
          <h1>Teachers sign in</h1>
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              submit();
            }}
          >
            <TextField
              label="Name"
              value={username}
              onChange={setUsername}
              autoComplete="username"
              isRequired
              maxLength={150}
              autoFocus
            />
            <TextField
              label="Password"
              type="password"
              value={password}
              onChange={setPassword}
              autoComplete="current-password"
              isRequired
              maxLength={200}
            />
            <ProblemNote problem={signIn.error} />
            <MainButton type="submit">{signIn.isPending ? "One moment…" : "Sign in"}</MainButton>
          </Form>
          <Soft>
            Students need no account: <Link to="/join">join with a code</Link>.
          </Soft>
        </Narrow>
      </Column>
    </Frame>
  );
}
