import { useState } from "react";
import { useSetEmail } from "../../api/who";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { Form, Narrow, Row } from "../../ui/layout";
import { OwnPassword } from "../../ui/passwords";
import { ProblemNote } from "../../ui/ProblemNote";

/** Where a link goes if the password is forgotten; only where the school's server sends mail. */
export function MailAddress({ email }: { email: string }) {
  const set = useSetEmail();
  const [typed, setTyped] = useState({ email, password: "" });
  return (
    <Disclosure title="Address for mail" detail={email || "none"}>
      <Narrow>
        <Form
          onSubmit={(event) => {
            event.preventDefault();
            set.mutate(typed, { onSuccess: () => setTyped((now) => ({ ...now, password: "" })) });
          }}
        >
          <TextField
            label="Address"
            hint="Used for nothing but a link for a new password. Leave it empty for none."
            type="email"
            value={typed.email}
            onChange={(text) => setTyped((now) => ({ ...now, email: text }))}
            autoComplete="email"
            maxLength={200}
          />
          <OwnPassword value={typed.password} change={(password) => setTyped((now) => ({ ...now, password }))} />
          <Row>
            <Button type="submit">Keep this address</Button>
            {set.isSuccess && <span role="status">Kept.</span>}
          </Row>
          <ProblemNote problem={set.error} />
        </Form>
      </Narrow>
    </Disclosure>
  );
}
