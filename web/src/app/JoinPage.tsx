import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useJoin } from "../api/who";
import { MainButton } from "../ui/Button";
import { CodeField, TextField } from "../ui/fields";
import { Column, Form, Narrow, Soft } from "../ui/layout";
import { Frame } from "../ui/Frame";
import { hasJoined } from "../api/leaving";
import { LanguageChoice } from "../ui/LanguageChoice";
import { ProblemNote, Refused } from "../ui/ProblemNote";
import { fetchBench } from "./pages";
import { typedBefore } from "./typedBefore";

/** A group joins with the lab's code and its own PIN; nothing personal is asked for. */
export function JoinPage() {
  const [search] = useSearchParams();
  const [code, setCode] = useState(typedBefore.code || (search.get("code") ?? ""));
  const [pin, setPin] = useState(typedBefore.pin);
  const join = useJoin();
  const navigate = useNavigate();
  const [refused] = useState(typedBefore.refused);
  const [atPin] = useState(typedBefore.inPin || (code !== "" && code === search.get("code")));
  useEffect(() => {
    void fetchBench().catch(() => null); // while somebody types, so that the bench is there when it is wanted
  }, []);
  return (
    <Frame title={t`Join a lab`}>
      <Column>
        <Narrow>
          <h1>
            <Trans>Join your lab</Trans>
          </h1>
          <Soft>
            <Trans>
              Your teacher has the code of the lab and the PIN of your group. You need no account and no name.
            </Trans>
          </Soft>
          <Form
            onSubmit={(event) => {
              event.preventDefault();
              join.mutate(
                { code, pin },
                {
                  onSuccess: () => {
                    hasJoined();
                    navigate("/bench");
                  },
                },
              );
            }}
          >
            <CodeField
              label={t`Code`}
              hint={t`A word and three digits, for example AMBER-123.`}
              value={code}
              onChange={setCode}
              autoFocus={!atPin}
            />
            <TextField
              label={t`PIN of your group`}
              value={pin}
              onChange={setPin}
              inputMode="numeric"
              autoFocus={atPin}
              autoComplete="off"
              isRequired
              maxLength={12}
            />
            {join.isIdle && refused && <Refused>{refused}</Refused>}
            <ProblemNote problem={join.error} />
            <MainButton type="submit">{join.isPending ? t`One moment…` : t`Join`}</MainButton>
          </Form>
          <Soft>
            <Link to="/practise">
              <Trans>Practise without a kit</Trans>
            </Link>
          </Soft>
          <Soft>
            <Link to="/sign-in">
              <Trans>Teachers sign in here</Trans>
            </Link>
          </Soft>
          <LanguageChoice />
        </Narrow>
      </Column>
    </Frame>
  );
}
