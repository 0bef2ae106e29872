import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { clock } from "../../format";
import { TextButton } from "../../ui/Button";
import { ToneMark } from "../../ui/Notes";
import { colour, font, print } from "../../ui/theme";
import { counted } from "../../lab/standing";
import { bathName, useNames } from "../../lab/useNames";

const NAME_REM = 7;
const LANE_PX = 46;
const MINUTE_STEP = 15;
const [LEAST_REM, MOST_REM] = [46, 60]; // of all lanes: beyond the one they are scrolled, up to the other a laptop shows them whole
const TILE_REM = 5.8; // what a cell and its liquid take

const Scroller = styled.div`
  overflow-x: auto;
`;

const Room = styled.div<{ $wide: number }>`
  position: relative;
  min-width: ${({ $wide }) => $wide}rem;
  padding-top: 1.9rem;
`;

const Lane = styled.div`
  position: relative;
  display: grid;
  grid-template-columns: ${NAME_REM}rem minmax(0, 1fr);
  align-items: center;
  height: ${LANE_PX + 6}px;
`;

const Name = styled.div`
  font-weight: 600;
  line-height: 1.15;
  small {
    display: block;
    color: ${colour.soft};
    font: 400 0.85rem ${font.numbers};
  }
  ${print} {
    small {
      display: none; /* a PIN is on its group's card alone */
    }
  }
`;

/* Places on the time line are set as attributes of an SVG-free grid: 600 columns, one for each tenth of a minute. */
const Track = styled.ol<{ $tenths: number }>`
  display: grid;
  grid-template-columns: repeat(${({ $tenths }) => $tenths}, minmax(0, 1fr));
  height: ${LANE_PX}px;
`;

const Place = styled.li<{ $from: number; $to: number }>`
  grid-column: ${({ $from, $to }) => `${$from + 1} / ${$to + 1}`};
  grid-row: 1;
  min-width: 0;
  padding-right: 3px;
`;

const Box = styled(Button)<{ $kind: "done" | "some" | "none"; $shared: boolean; $flag: boolean }>`
  position: relative;
  display: grid;
  align-content: center;
  justify-items: start;
  gap: 1px;
  width: 100%;
  height: 100%;
  padding: 0 0.4rem;
  overflow: hidden;
  border: ${({ $kind }) => ($kind === "some" ? `2px solid ${colour.ink}` : `1px solid ${colour.hairline}`)};
  background: ${({ $kind, $flag }) => ($flag ? colour.cautionPale : $kind === "done" ? colour.bench : colour.white)};
  color: ${colour.ink};
  font-size: 0.92rem;
  font-weight: ${({ $shared }) => ($shared ? 700 : 400)};
  line-height: 1.1;
  white-space: nowrap;
  cursor: pointer;
  & > span[data-mark] {
    position: absolute;
    top: 2px;
    right: 4px;
  }
  &[aria-pressed="true"] {
    box-shadow: inset 0 0 0 2px ${colour.ink};
  }
  small {
    overflow: hidden;
    max-width: 100%;
    color: ${colour.ink};
    font-size: 0.76rem;
    font-weight: 400;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

const Still = styled.div`
  display: grid;
  place-items: center;
  height: 100%;
  overflow: hidden;
  background: ${colour.margin};
  color: ${colour.soft};
  font-size: 0.8rem;
  line-height: 1.05;
  text-align: center;
  overflow-wrap: anywhere;
`;

const Scale = styled.div<{ $tenths: number }>`
  position: absolute;
  inset: 0 0 0 ${NAME_REM}rem;
  display: grid;
  grid-template-columns: repeat(${({ $tenths }) => $tenths}, minmax(0, 1fr));
  pointer-events: none;
`;

const Tick = styled.div<{ $at: number }>`
  grid-column: ${({ $at }) => $at + 1} / span 1;
  grid-row: 1;
  border-left: 1px solid ${colour.hairline};
  color: ${colour.soft};
  font: 0.82rem ${font.numbers};
  white-space: nowrap;
  span {
    position: relative;
    left: 4px;
  }
`;

const Now = styled(Tick)`
  position: relative;
  border-left: 2px solid ${colour.wrong};
  span {
    left: -1.6rem;
    padding: 0.1rem 0.35rem;
    border-radius: 3px;
    background: ${colour.wrong};
    color: ${colour.white};
  }
`;

const Squares = ({ filled, of }: { filled: number; of: number }) => (
  <svg width={of * 10} height="8" viewBox={`0 0 ${of * 10} 8`} aria-hidden>
    {Array.from({ length: of }, (_, index) => (
      <rect
        key={index}
        x={index * 10 + 0.5}
        y={0.5}
        width={7}
        height={7}
        fill={index < filled ? colour.reading : colour.white}
        stroke={colour.reading}
      />
    ))}
  </svg>
);

type Props = {
  board: Schemas["BoardOut"];
  picked: string | null;
  pick: (cell: string) => void;
  pickGroup?: (group: string) => void;
  wall?: boolean;
};

/** One lane a group, minutes across: boxes fill up as readings come in. On the wall nobody is pointed at. */
export function RoomLanes({ board, picked, pick, pickGroup, wall = false }: Props) {
  const names = useNames();
  // As the plan has it, break and late start counted; cells that came later stand after the last, as long as that.
  const spans = board.cell_minutes;
  const last = spans.at(-1) ?? { begin: 0, end: 1 };
  const spanOf = (place: number) => {
    const later = (place - spans.length + 1) * (last.end - last.begin);
    const { begin, end } = spans[place] ?? { begin: last.begin + later, end: last.end + later };
    return { from: Math.round(begin * 10), to: Math.round(end * 10) };
  };
  const most = Math.max(1, ...board.groups.map((group) => group.cells.length));
  const start = spanOf(0).from;
  const shortest = Math.max(1, Math.min(...Array.from({ length: most }, (_, at) => spanOf(at).to - spanOf(at).from)));
  const end = spanOf(most - 1).to;
  const after = Math.round(board.minutes_for_packs * 10) + Math.round(board.minutes_to_clear * 10);
  const tenths = Math.max(board.minutes * 10, end + after);
  const clearing = tenths - Math.round(board.minutes_to_clear * 10);
  const now = board.state === "open" && board.opened_at ? 60 * board.minutes_in : null;
  const nowTenths = now === null ? null : Math.floor(now / 6);
  return (
    <Scroller tabIndex={0} role="region" aria-label={t`The room, one lane a group`}>
      <Room $wide={Math.min(MOST_REM, Math.max(LEAST_REM, NAME_REM + (TILE_REM * tenths) / shortest))}>
        <Scale $tenths={tenths} aria-hidden>
          {Array.from({ length: Math.ceil(tenths / 10 / MINUTE_STEP) }, (_, index) => (
            <Tick className="small" key={index} $at={index * MINUTE_STEP * 10}>
              {(nowTenths === null || Math.abs(nowTenths - index * MINUTE_STEP * 10 - 25) > 45) && (
                <span>
                  <Trans>{index * MINUTE_STEP} min</Trans>
                </span>
              )}
            </Tick>
          ))}
        </Scale>
        {board.groups.map((group) => (
          <Lane key={group.id}>
            <Name>
              {pickGroup ? (
                <TextButton
                  data-on-paper
                  onPress={() => pickGroup(group.id)}
                  aria-label={t`${group.name}, PIN and meter`}
                >
                  {group.name}
                </TextButton>
              ) : (
                group.name
              )}
              {!wall && group.pin && (
                <small>
                  <Trans>PIN {group.pin}</Trans>
                </small>
              )}
            </Name>
            <Track $tenths={tenths} aria-label={group.name}>
              <Place $from={0} $to={start}>
                <Still className="small">
                  <Trans>zero, check</Trans>
                </Still>
              </Place>
              {group.cells.map((cell, index) => {
                const filled = counted(cell).length;
                const kind = filled >= board.wanted ? "done" : filled > 0 ? "some" : "none";
                const flag = wall ? null : cell.flag;
                const mark = flag ? (flag.sure === "likely" ? "wrong" : "caution") : kind === "done" ? "good" : "plain";
                return (
                  <Place key={cell.id} $from={spanOf(index).from} $to={spanOf(index).to}>
                    <Box
                      $kind={kind}
                      $shared={cell.shared}
                      $flag={flag !== null}
                      aria-pressed={picked === cell.id}
                      aria-label={t`${group.name}, ${cell.short} in ${bathName(names, cell)}, ${filled} of ${board.wanted} readings${cell.shared ? t`, shared cell` : ""}${flag ? t`, go and see: ${flag.text}` : ""}${cell.asked ? t`, asked again` : ""}`}
                      onPress={() => pick(cell.id)}
                    >
                      {cell.short}
                      {mark !== "plain" && (
                        <span data-mark>
                          <ToneMark tone={mark} />
                        </span>
                      )}
                      <small>{names.level(cell.condition) || names.liquid(cell.electrolyte).split(" ")[0]}</small>
                      <Squares filled={filled} of={Math.max(board.wanted, filled)} />
                    </Box>
                  </Place>
                );
              })}
              {board.minutes_for_packs > 0 && (
                <Place $from={Math.max(start, clearing - Math.round(board.minutes_for_packs * 10))} $to={clearing}>
                  <Still className="small">
                    <Trans>packs</Trans>
                  </Still>
                </Place>
              )}
              <Place $from={clearing} $to={tenths}>
                <Still className="small">
                  <Trans>rinse, clear</Trans>
                </Still>
              </Place>
            </Track>
          </Lane>
        ))}
        {now !== null && nowTenths !== null && nowTenths < tenths && (
          <Scale $tenths={tenths} aria-hidden>
            <Now className="small" $at={nowTenths}>
              <span>{clock(now)}</span>
            </Now>
          </Scale>
        )}
      </Room>
    </Scroller>
  );
}
