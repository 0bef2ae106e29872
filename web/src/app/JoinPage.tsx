import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useJoin } from "../api/who";
import { MainButton } from "../ui/Button";
import { CodeField, TextField } from "../ui/fields";
import { Column, Form, Narrow, Soft } from "../ui/layout";
import { ProblemNote } from "../ui/ProblemNote";
import { Frame } from "../ui/Frame";
import { hasJoined } from "../api/leaving";

/** A group joins with the lab's code and its own PIN; nothing personal is asked for. */
export function JoinPage() {
  const [search] = useSearchParams();
  const [code, setCode] = useState(search.get("code") ?? "");
  const [pin, setPin] = useState("");
  const join = useJoin();
  const navigate = useNavigate();
  return (
    <Frame title="Join a lab">
      <Column>
        <Narrow>
          <h1>Join your lab</h1>
          <Soft>Your teacher has the code of the lab and the PIN of your group. You need no account and no name.</Soft>
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
              label="Code"
              hint="A word and three digits, for example AMBER-123."
              value={code}
              onChange={setCode}
              autoFocus={!code}
            />
            <TextField
              label="PIN of your group"
              value={pin}
              onChange={setPin}
              inputMode="numeric"
              autoFocus={Boolean(search.get("code"))}
              autoComplete="off"
              isRequired
              maxLength={12}
            />
            <ProblemNote problem={join.error} />
            <MainButton type="submit">{join.isPending ? "One moment…" : "Join"}</MainButton>
          </Form>
          <Soft>
            <Link to="/practise">Practise without a kit</Link>
          </Soft>
          <Soft>
            <Link to="/sign-in">Teachers sign in here</Link>
          </Soft>
        </Narrow>
      </Column>
    </Frame>
  );
}
