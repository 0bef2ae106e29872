import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Button, Header, Menu, MenuItem, MenuSection, MenuTrigger, Popover } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { colour, font, print } from "../../ui/theme";
import { bathName, useNames } from "../../lab/useNames";

type Lab = Schemas["LabOut"];
type Cell = Schemas["PlannedCellOut"];
export type CellEdit = { kind: "pin" | "drop" | "ban" | "move"; cell: Cell; group: number; to?: number };

const NAME_REM = 5.8;
const STEP = 15;
const [LEAST_REM, MOST_REM] = [46, 60]; // of all lanes: beyond the one they are scrolled, up to the other a laptop shows them whole
const TILE_REM = 5.6; // what a cell and what is varied at it take

const Scroller = styled.div`
  overflow-x: auto;
`;

const Room = styled.div<{ $wide: number }>`
  position: relative;
  display: grid;
  gap: 0.4rem;
  min-width: ${({ $wide }) => $wide}rem;
  padding-top: 1.5rem;
  ${print} {
    min-width: 0;
  }
`;

const Scale = styled.div`
  position: absolute;
  inset: 0 0 0 ${NAME_REM}rem;
  pointer-events: none;
  span {
    position: absolute;
    top: 0;
    bottom: 0;
    padding-left: 4px;
    border-left: 1px solid ${colour.hairline};
    color: ${colour.soft};
    font: 0.82rem ${font.numbers};
    white-space: nowrap;
  }
`;

const End = styled.span`
  && {
    border-left: 2px solid ${colour.ink};
    color: ${colour.ink};
  }
`;

const Lane = styled.div`
  display: grid;
  grid-template-columns: ${NAME_REM}rem minmax(0, 1fr);
  align-items: center;
`;

const Name = styled.div`
  overflow: hidden;
  padding-right: 0.4rem;
  font-weight: 600;
  line-height: 1.2;
  text-overflow: ellipsis;
  small {
    display: block;
    color: ${colour.soft};
    font-size: 0.8rem;
    font-weight: 400;
  }
  ${print} {
    small {
      display: none; /* a PIN is on its group's card alone */
    }
  }
`;

const Track = styled.div`
  position: relative;
  height: 44px;
  ${print} {
    height: 56px;
  }
`;

const Stretch = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  padding: 0 1px;
`;

const Still = styled.div`
  display: grid;
  place-items: center;
  height: 100%;
  overflow: hidden;
  background: ${colour.margin};
  color: ${colour.soft};
  font-size: 0.78rem;
  line-height: 1.1;
  text-align: center;
  overflow-wrap: anywhere;
`;

const Box = styled(Button)<{ $shared: boolean; $pinned: boolean }>`
  display: block;
  width: 100%;
  height: 100%;
  padding: 0 0.3rem;
  overflow: hidden;
  border: 1px solid ${colour.hairline};
  border-left: ${({ $pinned }) => ($pinned ? `4px solid ${colour.table}` : `1px solid ${colour.hairline}`)};
  background: ${colour.white};
  color: ${colour.ink};
  font-size: 0.9rem;
  font-weight: ${({ $shared }) => ($shared ? 700 : 400)};
  line-height: 1.15;
  text-align: left;
  white-space: nowrap;
  text-overflow: ellipsis;
  cursor: pointer;
  small {
    display: block;
    overflow: hidden;
    color: ${colour.soft};
    font-size: 0.76rem;
    font-weight: 400;
    text-overflow: ellipsis;
  }
  &[data-focus-visible] {
    outline: 3px solid ${colour.table};
    outline-offset: -3px;
  }
  &[data-disabled] {
    cursor: default;
  }
  ${print} {
    padding: 0 0.1rem;
    font-size: 0.78rem;
    white-space: normal;
    small {
      font-size: 0.66rem;
      line-height: 1.05;
    }
  }
`;

const Sheet = styled(Popover)`
  max-height: 60vh;
  overflow-y: auto;
  min-width: 14rem;
  border: 1.5px solid ${colour.ink};
  border-radius: 6px;
  background: ${colour.page};
`;

const Item = styled(MenuItem)`
  padding: 0.55rem 0.8rem;
  cursor: pointer;
  &[data-focused] {
    background: ${colour.bench};
    outline: none;
  }
`;

const Head = styled(Header)`
  padding: 0.5rem 0.8rem 0.1rem;
  border-top: 1px solid ${colour.hairline};
  color: ${colour.soft};
  font-size: 0.85rem;
`;

const STILL: Record<string, string> = {
  start: t`zero, check`,
  packs: t`packs`,
  clear: t`rinse, clear`,
  pause: t`break`,
  late: t`late`,
};

type Props = { lab: Lab; plan: Schemas["PlanDetail"]; edit: ((edit: CellEdit) => void) | null };

/** One lane a group, minutes across; press a cell to pin, move or drop it. */
export function RoomPlan({ lab, plan, edit }: Props) {
  const names = useNames();
  const period = lab.settings.minutes;
  const end = Math.max(period, plan.needed);
  const at = (minute: number) => `${(100 * minute) / end}%`;
  const one = plan.baths.length === 1;
  const sameLiquid = new Set(plan.baths.map((bath) => bath.electrolyte)).size === 1;
  const differs = (cell: Cell) =>
    !cell.condition
      ? names.liquid(cell.electrolyte)
      : sameLiquid
        ? names.level(cell.condition)
        : `${names.liquid(cell.electrolyte)}, ${names.level(cell.condition)}`;
  const lengths = plan.lanes.flat().flatMap(({ cell, begin, end }) => (cell === null ? [] : [end - begin]));
  const shortest = Math.max(0.5, Math.min(...lengths, period));
  return (
    <Scroller tabIndex={0} role="region" aria-label={t`Who does what, when: one lane a group`}>
      <Room $wide={Math.min(MOST_REM, Math.max(LEAST_REM, NAME_REM + (TILE_REM * end) / shortest))}>
        <Scale aria-hidden>
          {Array.from({ length: Math.floor((end - 4) / STEP) + 1 }, (_, index) => (
            <span key={index} style={{ left: at(index * STEP) }}>
              <Trans>{index * STEP} min</Trans>
            </span>
          ))}
          {plan.needed > period && (
            <End style={{ left: at(period) }}>
              <Trans>end</Trans>
            </End>
          )}
        </Scale>
        {lab.groups.map((group, number) => (
          <Lane key={group.id}>
            <Name>
              {group.name}
              {group.pin && (
                <small>
                  <Trans>PIN {group.pin}</Trans>
                </small>
              )}
            </Name>
            <Track role="group" aria-label={group.name}>
              {plan.lanes[number]?.map((stretch, index) => {
                const cell = stretch.cell === null ? null : (group.cells[stretch.cell] ?? null);
                const width = at(stretch.end - stretch.begin);
                return (
                  <Stretch key={index} style={{ left: at(stretch.begin), width }}>
                    {cell ? (
                      <CellBox
                        cell={cell}
                        group={number}
                        groups={lab.groups.map((other) => other.name)}
                        bath={one ? "" : bathName(names, cell)}
                        differs={differs(cell)}
                        edit={edit}
                      />
                    ) : (
                      <Still>{STILL[stretch.kind]}</Still>
                    )}
                  </Stretch>
                );
              })}
            </Track>
          </Lane>
        ))}
      </Room>
    </Scroller>
  );
}

type BoxProps = { cell: Cell; group: number; groups: string[]; bath: string; differs: string; edit: Props["edit"] };

function CellBox({ cell, group, groups, bath, differs, edit }: BoxProps) {
  const state = cell.shared ? t`, shared cell` : cell.pinned ? t`, pinned` : "";
  const box = (
    <Box
      $shared={cell.shared}
      $pinned={cell.pinned}
      isDisabled={!edit || cell.shared}
      aria-label={`${groups[group]}, ${cell.short}${bath && t` in ${bath}`}${state}`}
    >
      {cell.short}
      {bath && <small>{differs}</small>}
    </Box>
  );
  if (!edit || cell.shared) return box;
  return (
    <MenuTrigger>
      {box}
      <Sheet placement="bottom start">
        <Menu
          aria-label={t`${cell.short} at ${groups[group] ?? ""}`}
          onAction={(key) => {
            const [kind, to] = String(key).split(":");
            edit({ kind: kind as CellEdit["kind"], cell, group, to: to === undefined ? undefined : Number(to) });
          }}
        >
          <Item id="pin">{cell.pinned ? t`Let it move again` : t`Keep it with this group`}</Item>
          <Item id="drop">
            <Trans>Drop it here</Trans>
          </Item>
          <Item id="ban">
            <Trans>Take this cell out of the lab</Trans>
          </Item>
          <MenuSection>
            <Head>
              <Trans>Give it to</Trans>
            </Head>
            {groups.map(
              (name, to) =>
                to !== group && (
                  <Item key={name} id={`move:${to}`}>
                    {name}
                  </Item>
                ),
            )}
          </MenuSection>
        </Menu>
      </Sheet>
    </MenuTrigger>
  );
}
