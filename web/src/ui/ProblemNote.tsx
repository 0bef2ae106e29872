import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import { Problem } from "../api/client";
import { colour, font } from "./theme";

const Box = styled.div`
  padding: 0.6rem 0.8rem;
  border-left: 5px solid ${colour.wrong};
  background: ${colour.white};
  p {
    color: ${colour.wrong};
    font-weight: 600;
  }
  li {
    padding: 0.15rem 0;
  }
  b {
    font-family: ${font.numbers};
  }
`;

/** Why something was refused, in one sentence. */
export const Refused = ({ children }: { children: string }) => (
  <Box role="alert">
    <p>{children}</p>
  </Box>
);

/** What went wrong, said where it happened. */
export function ProblemNote({ problem }: { problem: Error | null | undefined }) {
  if (!(problem instanceof Problem)) return null;
  return (
    <Box role="alert">
      <p>{problem.message}</p>
      {problem.body.rows.length > 0 && (
        <ul>
          {problem.body.rows.map((row) => (
            <li key={`${row.line}`}>
              <b>
                <Trans>line {row.line}</Trans>
              </b>{" "}
              {row.message}
            </li>
          ))}
        </ul>
      )}
    </Box>
  );
}
