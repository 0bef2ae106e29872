import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useVersions } from "../../api/notebook";
import { moment, lower } from "../../format";
import { TextButton } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Soft } from "../../ui/layout";
import { colour, print } from "../../ui/theme";
import { anchorOf } from "../../lab/Kept";
import { type Citable, keyOf } from "./citable";

type Part = Schemas["PartOut"];

const Text = styled.div`
  display: grid;
  gap: 0.6rem;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
`;

const Remark = styled.p`
  padding: 0.4rem 0.8rem;
  border-left: 4px solid ${colour.ink};
  background: ${colour.bench};
`;

/** Room to write by hand, on paper only. */
const Ruled = styled.div`
  display: none;
  ${print} {
    display: block;
    height: 3.6cm;
    background: repeating-linear-gradient(transparent 0 0.86cm, ${colour.soft} 0.86cm 0.9cm);
    print-color-adjust: exact;
  }
`;

/** What a part points at, each a way to where it stands. */
export function Evidence({ cites, all }: { cites: Schemas["Cite"][]; all: Citable[] }) {
  const known = new Map(all.map((one) => [keyOf(one), one]));
  if (cites.length === 0) return null;
  return (
    <p>
      <Trans>Evidence:</Trans>{" "}
      {cites.map((cite, place) => {
        const found = known.get(keyOf(cite));
        return (
          <span key={keyOf(cite)}>
            {place > 0 && ", "}
            {found ? (
              <a href={`#${anchorOf(cite)}`}>
                {found.about}: {found.name}
              </a>
            ) : (
              t`something that no longer counts`
            )}
          </span>
        );
      })}
    </p>
  );
}

/** A part as it is read: the group's words, its evidence, and the teacher's remark. */
export function Words({ part, all, ruled }: { part: Part; all: Citable[]; ruled: boolean }) {
  return (
    <>
      {part.text ? <Text>{part.text}</Text> : <Soft>{ruled ? "" : t`Nothing is written here.`}</Soft>}
      {!part.text && ruled && <Ruled />}
      <Evidence cites={part.cites} all={all} />
      <Remarked part={part} />
    </>
  );
}

/** What the teacher said to a part, for who reads it and for who writes it. */
export const Remarked = ({ part }: { part: Part }) =>
  part.remark ? (
    <Remark>
      <Trans>
        Your teacher: <strong>{part.remark}</strong>
      </Trans>
    </Remark>
  ) : null;

type VersionsProps = { part: Part; group: string | null; take: ((version: Schemas["VersionOut"]) => void) | null };

/** All versions of a part, the newest first; a group may take an earlier one up again. */
export function Versions({ part, group, take }: VersionsProps) {
  const [open, setOpen] = useState(false);
  const versions = useVersions(part.key, group, open);
  if (part.versions < 2) return null;
  return (
    <Disclosure title={t`${part.versions} versions`} detail={lower(part.name)}>
      {!open && (
        <TextButton onPress={() => setOpen(true)}>
          <Trans>Show them</Trans>
        </TextButton>
      )}
      {open &&
        versions.data?.versions.map((version, place) => (
          <section key={version.id} aria-label={t`Version of ${moment(version.at)}`}>
            <Soft>
              {moment(version.at)}
              {place === 0 && t`, the newest`}
              {take && place > 0 && (
                <>
                  {" · "}
                  <TextButton onPress={() => take(version)}>
                    <Trans>Take this one</Trans>
                  </TextButton>
                </>
              )}
            </Soft>
            <Text>{version.text || t`(empty)`}</Text>
          </section>
        ))}
    </Disclosure>
  );
}
