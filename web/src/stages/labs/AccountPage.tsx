import { useState } from "react";
import { useNavigate } from "react-router";
import { useChangePassword, useDeeds, useDeleteAccount, useEndSignIn, useSignIns, useWho } from "../../api/who";
import { count } from "../../format";
import { Frame } from "../../ui/Frame";
import { Waiting } from "../../ui/Waiting";
import { Button, ButtonLink, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Form, Narrow, Num, Row, Scroll, Soft, Spread, Table } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";

const when = (iso: string) =>
  new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** Delete the account, with the password typed once more. */
function DeleteAccount() {
  const remove = useDeleteAccount();
  const navigate = useNavigate();
  const [password, setPassword] = useState("");
  return (
    <Disclosure title="Delete this account" detail="with all its labs">
      <Narrow>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            remove.mutate(password, { onSuccess: () => navigate("/", { replace: true }) });
          }}
        >
          <Soft>
            You are signed out everywhere and your labs are out of sight at once. Signing in within 30 days takes all of
            it back; after that it is gone for good, readings and photographs too.
          </Soft>
          <TextField
            label="Your password"
            type="password"
            value={password}
            onChange={setPassword}
            autoComplete="current-password"
            maxLength={200}
            isRequired
          />
          <Row>
            <Button type="submit">Delete the account</Button>
          </Row>
          <ProblemNote problem={remove.error} />
        </form>
      </Narrow>
    </Disclosure>
  );
}

/** Another password, with the one so far typed once. */
function NewPassword() {
  const change = useChangePassword();
  const [typed, setTyped] = useState({ old: "", new: "" });
  return (
    <Disclosure title="Change your password" detail="other browsers are signed out">
      <Narrow>
        <Form
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate(typed, { onSuccess: () => setTyped({ old: "", new: "" }) });
          }}
        >
          <TextField
            label="Password so far"
            type="password"
            value={typed.old}
            onChange={(old) => setTyped((now) => ({ ...now, old }))}
            autoComplete="current-password"
            maxLength={200}
            isRequired
          />
          <TextField
            label="New password"
            hint="Ten letters or more, not a common one. Three unlike words are good."
            type="password"
            value={typed.new}
            onChange={(fresh) => setTyped((now) => ({ ...now, new: fresh }))}
            autoComplete="new-password"
            maxLength={200}
            isRequired
          />
          <Row>
            <Button type="submit">Change the password</Button>
            {change.isSuccess && <span role="status">Changed. All other browsers are signed out.</span>}
          </Row>
          <ProblemNote problem={change.error} />
        </Form>
      </Narrow>
    </Disclosure>
  );
}

/** Where the teacher is signed in; what is not theirs is ended here. */
function SignIns() {
  const list = useSignIns();
  const end = useEndSignIn();
  if (!list.data) return null;
  return (
    <Disclosure title="Where you are signed in" detail={count(list.data.length, "browser")}>
      <ul>
        {list.data.map((one) => (
          <li key={one.id}>
            <Row>
              {one.browser}, since <Num>{when(one.at)}</Num>
              {one.here ? (
                <strong>this browser</strong>
              ) : (
                <TextButton onPress={() => end.mutate(one.id)}>
                  Sign out {one.browser} of {when(one.at)}
                </TextButton>
              )}
            </Row>
          </li>
        ))}
      </ul>
      <ProblemNote problem={end.error} />
    </Disclosure>
  );
}

/** What the teacher did and when, and the way out. */
export function AccountPage() {
  const deeds = useDeeds();
  const who = useWho();
  if (!deeds.data) return <Waiting title="Account" error={deeds.error} />;
  return (
    <Frame title="Account" who={<strong>{who.data?.teacher}</strong>}>
      <Column>
        <Spread>
          <h1>Your account</h1>
          <ButtonLink to="/labs">Your labs</ButtonLink>
        </Spread>
        <NewPassword />
        <SignIns />
        <DeleteAccount />
        <h2>What you did</h2>
        <Soft>Kept for you alone, newest first, until the account is gone.</Soft>
        {deeds.data.length === 0 ? (
          <Soft>Nothing yet.</Soft>
        ) : (
          <Scroll tabIndex={0} role="region" aria-label="What you did">
            <Table>
              <thead>
                <tr>
                  <th scope="col">when</th>
                  <th scope="col">what</th>
                  <th scope="col">lab</th>
                  <th scope="col">about</th>
                </tr>
              </thead>
              <tbody>
                {deeds.data.map((one) => (
                  <tr key={`${one.at}-${one.what}`}>
                    <td>
                      <Num>{when(one.at)}</Num>
                    </td>
                    <td>{one.what}</td>
                    <td>{one.title}</td>
                    <td>{one.about}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          </Scroll>
        )}
      </Column>
    </Frame>
  );
}
