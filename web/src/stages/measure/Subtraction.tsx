import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useNames } from "../../lab/useNames";
import { TextButton } from "../../ui/Button";
import { Num, Row, Soft } from "../../ui/layout";
import { colour } from "../../ui/theme";

const Lines = styled.ol`
  display: grid;
  gap: 0.15rem;
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 0.1rem 0.9rem;
    align-items: baseline;
  }
  small {
    color: ${colour.soft};
    font-size: 0.88rem;
  }
`;

type Working = Schemas["Working"];
export type Help = "none" | "values" | "lines";

/** The subtraction as far as it is asked for; its last line stays with the group until `whole`. */
export function Subtraction({ working, help, whole }: { working: Working; help: Help; whole: boolean }) {
  if (working.lines.length === 0)
    return (
      <Soft>
        <Trans>{working.reason} Guess from what you know.</Trans>
      </Soft>
    );
  const shown = whole ? working.lines : help === "lines" ? working.lines.slice(0, -1) : [];
  return (
    <Lines aria-label={t`The subtraction`}>
      {shown.map((line) => (
        <li key={line.text}>
          <Num>{line.text}</Num> <small>{line.why}</small>
        </li>
      ))}
      {!whole && help === "lines" && (
        <li>
          <Num>V = ?</Num>{" "}
          <small>
            <Trans>your turn</Trans>
          </small>
        </li>
      )}
    </Lines>
  );
}

/** Help with the subtraction that is there when somebody asks: the two values of the table, then the lines. */
export function Helped({ working, cell, help, ask }: HelpedProps) {
  const names = useNames();
  return (
    <>
      {help === "values" && (
        <p>
          {working.values.map((one) => (
            <Num key={one.plate} as="span" style={{ marginRight: "1.2rem" }}>
              {`E°(${names.symbol(one.plate)}) = ${one.text}`}
            </Num>
          ))}
        </p>
      )}
      <Subtraction working={working} help={help} whole={false} />
      {help !== "lines" && working.lines.length > 0 && (
        <Row role="group" aria-label={t`Help with the subtraction for ${cell.short}`}>
          <Soft>
            <Trans>Need help?</Trans>
          </Soft>
          {help === "none" && (
            <TextButton onPress={() => ask("values")}>
              <Trans>The two values</Trans>
            </TextButton>
          )}
          <TextButton onPress={() => ask("lines")}>
            <Trans>The lines</Trans>
          </TextButton>
        </Row>
      )}
    </>
  );
}

type HelpedProps = { working: Working; cell: Schemas["BenchCell"]; help: Help; ask: (help: Help) => void };
