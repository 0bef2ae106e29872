import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
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
    <Disclosure title={t`Address for mail`} detail={email || t`none`}>
      <Narrow>
        <Form
          onSubmit={(event) => {
            event.preventDefault();
            set.mutate(typed, { onSuccess: () => setTyped((now) => ({ ...now, password: "" })) });
          }}
        >
          <TextField
            label={t`Address`}
            hint={t`Used for nothing but a link for a new password. Leave it empty for none.`}
            type="email"
            value={typed.email}
            onChange={(text) => setTyped((now) => ({ ...now, email: text }))}
            autoComplete="email"
            maxLength={200}
          />
          <OwnPassword value={typed.password} change={(password) => setTyped((now) => ({ ...now, password }))} />
          <Row>
            <Button type="submit">
              <Trans>Keep this address</Trans>
            </Button>
            {set.isSuccess && (
              <span role="status">
                <Trans>Kept.</Trans>
              </span>
            )}
          </Row>
          <ProblemNote problem={set.error} />
        </Form>
      </Narrow>
    </Disclosure>
  );
}
