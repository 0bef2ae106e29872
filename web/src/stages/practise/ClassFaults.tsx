import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { ShareFound } from "../../charts/ShareFound";
import { lower } from "../../format";
import { Disclosure } from "../../ui/controls";
import { Num, Small, Soft } from "../../ui/layout";
import { colour, phone } from "../../ui/theme";

type Fault = Schemas["FaultOut"];
type Taken = Fault["taken_for"][number];

const VERDICTS: Record<Fault["verdict"], string> = {
  not_yet: t`not found yet`,
  found: t`found`,
  few: t`too few tries to tell`,
};
const SHOWN = 2;

/** A fault a row: what it is, how many named it, what it was taken for; one under the other on a phone. */
const List = styled.ul`
  padding: 0;
  list-style: none;
  li {
    display: grid;
    grid-template-columns: minmax(8rem, 11rem) 13rem minmax(0, 1fr);
    gap: 0.3rem 1rem;
    padding: 0.7rem 0;
    border-top: 1px solid ${colour.hairline};
  }
  ${phone} {
    li {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;

/** Which hands would have told, and who tried them. */
function told({ tells, untried, devices }: Taken): string {
  const [hand, ...more] = tells;
  if (!hand) return "";
  const others = more.length > 0 ? t` or ${plural(more.length, { one: "# other hand", other: "# other hands" })}` : "";
  const who =
    untried === devices ? t`nobody had tried` : untried > 0 ? t`${untried} of them had not tried` : t`all had tried`;
  return t`“${lower(hand)}”${others} would tell; ${who}`;
}

function Rows({ faults, label }: { faults: Fault[]; label: string }) {
  return (
    <List aria-label={label}>
      {faults.map((fault) => (
        <li key={`${fault.symptom}:${fault.fault}`}>
          <div>
            <strong>{fault.name}</strong>
            <br />
            <Small>“{fault.seen}”</Small>
          </div>
          <div>
            <Num>
              <Trans>
                {fault.found} of {fault.devices}
              </Trans>
            </Num>{" "}
            <Small>{VERDICTS[fault.verdict]}</Small>
            <ShareFound {...fault} />
          </div>
          <div>
            {fault.taken_for.slice(0, SHOWN).map((one) => (
              <p key={one.name}>
                <Small>
                  <Trans>taken for</Trans>
                </Small>{" "}
                {one.name} ({one.devices}): <Small>{told(one)}</Small>
              </p>
            ))}
            {fault.taken_for.length > SHOWN && (
              <Small>
                <Trans>
                  {plural(fault.taken_for.length - SHOWN, { one: "# other fault", other: "# other faults" })} besides
                </Trans>
              </Small>
            )}
          </div>
        </li>
      ))}
    </List>
  );
}

/** Which faults a class names at once and which not yet, those first; what it finds stands behind a fold. */
export function ClassFaults({ faults }: { faults: Fault[] }) {
  const open = faults.filter((fault) => fault.verdict !== "found");
  const found = faults.filter((fault) => fault.verdict === "found");
  return (
    <>
      {open.length > 0 && <Rows faults={open} label={t`Faults not found yet`} />}
      {found.length > 0 && (
        <Disclosure
          title={t`${plural(found.length, { one: "# fault", other: "# faults" })} found`}
          detail={t`more than half name them at once`}
        >
          <Rows faults={found} label={t`Faults found`} />
        </Disclosure>
      )}
      <Soft>
        <Trans>
          Each device counts once for a fault, with its latest try. The thick line is where the share lies with 90 %
          confidence; the triangle is what guessing finds. Found or not yet is said only with that confidence: that more
          than half name it, or fewer.
        </Trans>
      </Soft>
    </>
  );
}
