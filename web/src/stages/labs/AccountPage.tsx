import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { useNavigate } from "react-router";
import {
  useAccount,
  useChangePassword,
  useDeeds,
  useDeleteAccount,
  useEndSignIn,
  useSignIns,
  useWho,
} from "../../api/who";
import { moment } from "../../format";
import { TeacherWho } from "../../lab/TeacherWho";
import { Frame } from "../../ui/Frame";
import { ProblemNote } from "../../ui/ProblemNote";
import { Waiting } from "../../ui/Waiting";
import { Button, ButtonLink, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { DeedTable } from "../../ui/DeedTable";
import { Column, Form, Narrow, Num, Row, Soft, Spread } from "../../ui/layout";
import { NewPassword, OwnPassword } from "../../ui/passwords";
import { MailAddress } from "./MailAddress";
import { SecondStep } from "./SecondStep";
import { LanguageChoice } from "../../ui/LanguageChoice";
import { version } from "../../version";

/** Delete the account, with the password typed once more. */
function DeleteAccount() {
  const remove = useDeleteAccount();
  const navigate = useNavigate();
  const [password, setPassword] = useState("");
  return (
    <Disclosure title={t`Delete this account`} detail={t`with all its labs`}>
      <Narrow>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            remove.mutate(password, { onSuccess: () => navigate("/", { replace: true }) });
          }}
        >
          <Soft>
            <Trans>
              You are signed out everywhere and your labs are out of sight at once. Signing in within 30 days takes all
              of it back; after that it is gone for good, readings and photographs too.
            </Trans>
          </Soft>
          <OwnPassword value={password} change={setPassword} />
          <Row>
            <Button type="submit">
              <Trans>Delete the account</Trans>
            </Button>
          </Row>
          <ProblemNote problem={remove.error} />
        </form>
      </Narrow>
    </Disclosure>
  );
}

/** Another password, with the one so far typed once. */
function ChangePassword() {
  const change = useChangePassword();
  const [typed, setTyped] = useState({ old: "", new: "" });
  return (
    <Disclosure title={t`Change your password`} detail={t`other browsers are signed out`}>
      <Narrow>
        <Form
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate(typed, { onSuccess: () => setTyped({ old: "", new: "" }) });
          }}
        >
          <OwnPassword
            label={t`Password so far`}
            value={typed.old}
            change={(old) => setTyped((now) => ({ ...now, old }))}
          />
          <NewPassword
            label={t`New password`}
            value={typed.new}
            change={(fresh) => setTyped((now) => ({ ...now, new: fresh }))}
          />
          <Row>
            <Button type="submit">
              <Trans>Change the password</Trans>
            </Button>
            {change.isSuccess && (
              <span role="status">
                <Trans>Changed. All other browsers are signed out.</Trans>
              </span>
            )}
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
  if (!list.data) return <ProblemNote problem={list.error} />;
  return (
    <Disclosure
      title={t`Where you are signed in`}
      detail={plural(list.data.length, { one: "# browser", other: "# browsers" })}
    >
      <ul>
        {list.data.map((one) => (
          <li key={one.id}>
            <Row>
              <Trans>
                {one.browser}, since <Num>{moment(one.at)}</Num>
              </Trans>
              {one.here ? (
                <strong>
                  <Trans>this browser</Trans>
                </strong>
              ) : (
                <TextButton onPress={() => end.mutate(one.id)}>
                  <Trans>
                    Sign out {one.browser} of {moment(one.at)}
                  </Trans>
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
  const account = useAccount();
  const who = useWho();
  if (!deeds.data) return <Waiting title={t`Account`} error={deeds.error} />;
  return (
    <Frame title={t`Account`} who={<TeacherWho name={who.data?.teacher} />}>
      <Column>
        <Spread>
          <h1>
            <Trans>Your account</Trans>
          </h1>
          <Row>
            <ButtonLink to="/school">
              <Trans>School</Trans>
            </ButtonLink>
            <ButtonLink to="/labs">
              <Trans>Your labs</Trans>
            </ButtonLink>
          </Row>
        </Spread>
        <LanguageChoice />
        <Soft>{t`Pipette ${version}`}</Soft>
        <ChangePassword />
        {!account.data && <ProblemNote problem={account.error} />}
        {account.data && <SecondStep account={account.data} />}
        {account.data?.mail && <MailAddress email={account.data.email} />}
        <SignIns />
        <DeleteAccount />
        <h2>
          <Trans>What you did</Trans>
        </h2>
        <Soft>
          <Trans>
            Kept for you, newest first, until the account is gone; with what colleagues did in labs of yours.
          </Trans>
        </Soft>
        <DeedTable deeds={deeds.data} label={t`What you did`} />
      </Column>
    </Frame>
  );
}
