import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import {
  useEndLink,
  useInvite,
  useResetColleague,
  useSchool,
  useSchoolDeeds,
  useSetActive,
  useSetCupboard,
  useSetHead,
} from "../../api/school";
import { useWho } from "../../api/who";
import { moment } from "../../format";
import { TeacherWho } from "../../lab/TeacherWho";
import { Button, ButtonLink, MainButton, TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Copy } from "../../ui/Copy";
import { DeedTable } from "../../ui/DeedTable";
import { TextField } from "../../ui/fields";
import { Frame } from "../../ui/Frame";
import { JoinCode } from "../../ui/JoinCode";
import { Column, Form, Narrow, Row, Small, Soft, Spread } from "../../ui/layout";
import { ProblemNote } from "../../ui/ProblemNote";
import { Select } from "../../ui/Select";
import { colour } from "../../ui/theme";
import { Waiting } from "../../ui/Waiting";

type School = Schemas["SchoolOut"];
type NewLink = Schemas["NewLinkOut"];

const Lines = styled.ul`
  border-top: 1px solid ${colour.hairline};
  & > li {
    padding: 0.5rem 0;
    border-bottom: 1px solid ${colour.hairline};
  }
`;

const Fresh = styled.div`
  padding: 0.8rem 1rem;
  border-left: 4px solid ${colour.account};
  background: ${colour.bench};
  code {
    overflow-wrap: anywhere;
  }
`;

/** A link that was just made: to copy, to send, to scan. It cannot be shown again. */
function FreshLink({ link, whose }: { link: NewLink; whose: string }) {
  return (
    <Fresh role="status">
      <p>
        <Trans>
          <strong>{whose}</strong> It is shown only now and works once.
        </Trans>
      </p>
      <p>
        <code>{link.address}</code>
      </p>
      <Row>
        <Copy text={link.address} label={t`Copy the link`} />
        <JoinCode link={{ ...link, address: t`the link` }} size="120px" />
      </Row>
    </Fresh>
  );
}

function Invite() {
  const invite = useInvite();
  const [name, setName] = useState("");
  return (
    <Narrow>
      <h2>
        <Trans>Invite a colleague</Trans>
      </h2>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          invite.mutate(name, { onSuccess: () => setName("") });
        }}
      >
        <TextField
          label={t`For whom`}
          hint={t`For your own list; it may stay empty. They choose their name themselves.`}
          value={name}
          onChange={setName}
          maxLength={80}
        />
        <Row>
          <MainButton type="submit">
            <Trans>Make a link</Trans>
          </MainButton>
        </Row>
        <ProblemNote problem={invite.error} />
        {invite.data && <FreshLink link={invite.data} whose={t`An invitation, good for seven days.`} />}
      </Form>
    </Narrow>
  );
}

function OpenLinks({ links }: { links: School["links"] }) {
  const end = useEndLink();
  if (links.length === 0) return null;
  return (
    <>
      <h2>
        <Trans>Links that still work</Trans>
      </h2>
      <Lines>
        {links.map((link) => (
          <li key={link.id}>
            <Row>
              {link.kind === "invite" ? t`Invitation` : t`New password`}
              {link.name && `, ${link.name}`}
              <Trans>, until {moment(link.ends_at)}</Trans>
              <TextButton onPress={() => end.mutate(link.id)}>
                <Trans>Withdraw</Trans>
                {link.name && t` that of ${link.name}`}
              </TextButton>
            </Row>
          </li>
        ))}
      </Lines>
      <ProblemNote problem={end.error} />
    </>
  );
}

function Teachers({ school }: { school: School }) {
  const reset = useResetColleague();
  const head = useSetHead();
  const active = useSetActive();
  const [ending, setEnding] = useState<number | null>(null);
  const heads = school.teachers.filter((teacher) => teacher.head).length;
  return (
    <>
      <Lines>
        {school.teachers.map((teacher) => (
          <li key={teacher.id}>
            <Row>
              <strong>{teacher.name}</strong>
              <Small>
                {[
                  teacher.me && t`you`,
                  teacher.head && t`head of the accounts`,
                  !teacher.active && t`account ended`,
                  teacher.last && t`last here ${moment(teacher.last)}`,
                ]
                  .filter(Boolean)
                  .join(" · ")}
              </Small>
              {school.head && !teacher.me && teacher.active && (
                <TextButton onPress={() => reset.mutate(teacher.id)}>
                  <Trans>New password for {teacher.name}</Trans>
                </TextButton>
              )}
              {school.head && teacher.active && (!teacher.head || heads > 1) && (
                <TextButton onPress={() => head.mutate({ id: teacher.id, head: !teacher.head })}>
                  {teacher.head ? t`${teacher.name} no longer head` : t`Make ${teacher.name} head too`}
                </TextButton>
              )}
              {school.head && !teacher.me && !teacher.active && (
                <TextButton onPress={() => active.mutate({ id: teacher.id, active: true })}>
                  <Trans>Let {teacher.name} in again</Trans>
                </TextButton>
              )}
              {school.head && !teacher.me && teacher.active && ending !== teacher.id && (
                <TextButton onPress={() => setEnding(teacher.id)}>
                  <Trans>End the account of {teacher.name}</Trans>
                </TextButton>
              )}
            </Row>
            {ending === teacher.id && (
              <Row>
                <span>
                  <Trans>{teacher.name} is out at once; labs and readings stay, and you can let them in again.</Trans>
                </span>
                <Button
                  onPress={() => {
                    active.mutate({ id: teacher.id, active: false });
                    setEnding(null);
                  }}
                >
                  <Trans>End it</Trans>
                </Button>
                <TextButton onPress={() => setEnding(null)}>
                  <Trans>Leave it</Trans>
                </TextButton>
              </Row>
            )}
            {reset.data && reset.variables === teacher.id && (
              <FreshLink
                link={reset.data}
                whose={t`A new password for ${teacher.name}, within a day. It turns a second step off; give it only in person.`}
              />
            )}
          </li>
        ))}
      </Lines>
      <ProblemNote problem={reset.error ?? head.error ?? active.error} />
    </>
  );
}

function Cupboard({ school }: { school: School }) {
  const set = useSetCupboard();
  return (
    <Narrow>
      <h2>
        <Trans>One cupboard for the school</Trans>
      </h2>
      <Select
        label={t`Whose cupboard all see and keep`}
        hint={t`Counts, prices and own materials. What somebody had of their own stays theirs and comes back.`}
        options={[
          { key: "none", name: t`Everybody has their own` },
          ...school.teachers
            .filter((teacher) => teacher.active)
            .map((teacher) => ({ key: String(teacher.id), name: t`That of ${teacher.name}` })),
        ]}
        value={school.cupboard === null ? "none" : String(school.cupboard)}
        onChange={(key) => set.mutate(key === "none" ? null : Number(key))}
      />
      <ProblemNote problem={set.error} />
    </Narrow>
  );
}

/** The school's teachers; its head invites, resets, ends, and sees what was done with accounts. */
export function SchoolPage() {
  const school = useSchool();
  const who = useWho();
  const deeds = useSchoolDeeds(school.data?.head ?? false);
  if (!school.data) return <Waiting title={t`School`} error={school.error} />;
  const { head, teachers, links } = school.data;
  return (
    <Frame
      title={t`School`}
      who={<TeacherWho name={who.data?.teacher} links={[{ to: "/account", name: t`Account` }]} />}
    >
      <Column>
        <Spread>
          <h1>
            <Trans>The school’s accounts</Trans>
          </h1>
          <ButtonLink to="/labs">
            <Trans>Your labs</Trans>
          </ButtonLink>
        </Spread>
        {!head && (
          <Soft>
            <Trans>
              A lab is shared with a colleague on its plan. For a new account or a forgotten password ask the head of
              the accounts.
            </Trans>
          </Soft>
        )}
        <Teachers school={school.data} />
        {head && (
          <>
            <Invite />
            <OpenLinks links={links} />
            <Cupboard school={school.data} />
            <Disclosure
              title={t`What was done with accounts`}
              detail={plural(teachers.length, { one: "# teacher", other: "# teachers" })}
            >
              {!deeds.data && <ProblemNote problem={deeds.error} />}
              {deeds.data && <DeedTable deeds={deeds.data} label={t`What was done with accounts`} />}
            </Disclosure>
          </>
        )}
      </Column>
    </Frame>
  );
}
