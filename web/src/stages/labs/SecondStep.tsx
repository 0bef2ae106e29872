import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useBeginSecond, useConfirmSecond, useEndSecond } from "../../api/who";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { TextField } from "../../ui/fields";
import { JoinCode } from "../../ui/JoinCode";
import { Form, Narrow, Num, Row, Soft } from "../../ui/layout";
import { OwnPassword } from "../../ui/passwords";
import { ProblemNote } from "../../ui/ProblemNote";

/** The password typed once more, before something about signing in is changed. */
function WithPassword({
  label,
  go,
  problem,
}: {
  label: string;
  go: (password: string) => void;
  problem: Parameters<typeof ProblemNote>[0]["problem"];
}) {
  const [password, setPassword] = useState("");
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        go(password);
        setPassword("");
      }}
    >
      <OwnPassword value={password} change={setPassword} />
      <Row>
        <Button type="submit">{label}</Button>
      </Row>
      <ProblemNote problem={problem} />
    </Form>
  );
}

/** Codes that are shown once. */
function Recovery({ codes }: { codes: string[] }) {
  return (
    <div role="status">
      <p>
        <Trans>
          <strong>The second step is on.</strong> Print or write these codes down: each signs you in once if the phone
          is lost. They are not shown again.
        </Trans>
      </p>
      <ul>
        {codes.map((code) => (
          <li key={code}>
            <Num>{code}</Num>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** A code from an app when signing in, so that a password that somebody has seen does not let them in. */
export function SecondStep({ account }: { account: Schemas["AccountOut"] }) {
  const begin = useBeginSecond();
  const confirm = useConfirmSecond();
  const end = useEndSecond();
  const [code, setCode] = useState("");
  return (
    <Disclosure
      title={t`A second step when signing in`}
      detail={
        account.second
          ? t`on, ${plural(account.recovery, { one: "# recovery code", other: "# recovery codes" })} left`
          : t`off`
      }
    >
      <Narrow>
        {confirm.data && account.second && <Recovery codes={confirm.data.codes} />}
        {account.second ? (
          <WithPassword label={t`Turn it off`} go={(password) => end.mutate(password)} problem={end.error} />
        ) : !begin.data ? (
          <>
            <Soft>
              <Trans>
                An app on your phone shows a new code every half minute; any app for such codes will do. You type it
                after your password.
              </Trans>
            </Soft>
            <WithPassword label={t`Begin`} go={(password) => begin.mutate(password)} problem={begin.error} />
          </>
        ) : (
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              confirm.mutate(code, { onSuccess: () => setCode("") });
            }}
          >
            <p>
              <Trans>Scan this with the app, or type the letters into it.</Trans>
            </p>
            <JoinCode link={{ ...begin.data, address: t`your app` }} size="180px" />
            <p>
              <Num style={{ whiteSpace: "normal" }}>{begin.data.secret}</Num>
            </p>
            <TextField
              label={t`The code the app shows now`}
              value={code}
              onChange={setCode}
              inputMode="numeric"
              autoComplete="one-time-code"
              maxLength={40}
              isRequired
            />
            <Row>
              <Button type="submit">
                <Trans>Turn it on</Trans>
              </Button>
            </Row>
            <ProblemNote problem={confirm.error} />
          </Form>
        )}
      </Narrow>
    </Disclosure>
  );
}
