import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useSetMeter } from "../../api/room";
import { useNewPin } from "../../api/who";
import { AskOnce } from "../../ui/AskOnce";
import { Button } from "../../ui/Button";
import { TextField } from "../../ui/fields";
import { Form, Num, Row, Soft } from "../../ui/layout";
import { ToneMark } from "../../ui/Notes";
import { ProblemNote } from "../../ui/ProblemNote";
import { SetAside } from "../../lab/SetAside";

type Group = Schemas["GroupBoard"];

const End = styled(Row)`
  align-items: end;
`;

const Said = styled.span`
  display: flex;
  gap: 0.5em;
  align-items: baseline;
  svg {
    flex: none;
  }
`;

const Section = styled.section`
  display: grid;
  gap: 0.7rem;
`;

/** The group that was pressed on the board: another PIN (its devices must join again), its meter, all of it set aside. */
export function GroupDetail({ group, open }: { group: Group; open: boolean }) {
  const change = useNewPin();
  const set = useSetMeter();
  const [address, setAddress] = useState(group.meter_address);
  return (
    <Section aria-label={group.name} aria-live="polite">
      <h2>{group.name}</h2>
      <Row>
        {group.pin && (
          <span>
            <Trans>
              PIN <Num>{group.pin}</Num>
            </Trans>
          </span>
        )}
        {open && group.pin && (
          <AskOnce
            button={t`New PIN, all devices out`}
            question={t`All devices of ${group.name} must join again.`}
            yes={t`Give a new PIN`}
            no={t`Keep the PIN`}
            act={() => change.mutate(group.id)}
          />
        )}
      </Row>
      <p>
        {group.meter ? (
          <Said>
            <ToneMark tone={group.meter.tone} />
            <span>
              <Trans>Its meter:</Trans> {group.meter.text} {group.meter.do}
            </span>
          </Said>
        ) : (
          <Trans>Its meter is not checked.</Trans>
        )}
      </p>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate({ group: group.id, address });
        }}
      >
        <End>
          <TextField
            label={t`Address of a connected meter (empty: none)`}
            value={address}
            onChange={setAddress}
            maxLength={60}
            autoComplete="off"
          />
          <Button type="submit">
            <Trans>Keep the address</Trans>
          </Button>
          {set.isSuccess && (
            <Soft role="status">
              <Trans>Kept.</Trans>
            </Soft>
          )}
        </End>
      </Form>
      <ProblemNote problem={change.error ?? set.error} />
      <SetAside kind="groups" id={group.id} aside={group.aside} />
    </Section>
  );
}
