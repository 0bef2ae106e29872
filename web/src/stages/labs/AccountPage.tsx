import { useState } from "react";
import { useNavigate } from "react-router";
import { useDeeds, useDeleteAccount, useWho } from "../../api/who";
import { Frame } from "../../ui/Frame";
import { Waiting } from "../../ui/Waiting";
import { Button, ButtonLink } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Column, Narrow, Num, Row, Scroll, Soft, Spread, Table } from "../../ui/layout";
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

/** What the teacher did and when, and the way out. */
export function AccountPage() {
  const deeds = useDeeds();
  const who = useWho();
  if (!deeds.data) return <Waiting title="Account" error={deeds.error} />;
  return (
    <Frame title="Account" who={<strong>{who.data?.teacher}</strong>}>
      <Column>
        <Spread>
          <h1>What you did</h1>
          <ButtonLink to="/labs">Your labs</ButtonLink>
        </Spread>
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
        <DeleteAccount />
      </Column>
    </Frame>
  );
}
