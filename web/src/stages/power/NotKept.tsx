import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import styled from "styled-components";
import { TextButton } from "../../ui/Button";
import { colour } from "../../ui/theme";
import type { Refused } from "./packView";

const List = styled.ul`
  display: grid;
  gap: 0.4rem;
  padding: 0.5rem 1.25rem;
  border-left: 4px solid ${colour.wrong};
  background: ${colour.bench};
  strong {
    color: ${colour.wrong};
  }
`;

/** What was typed and will never be kept, with the reason, until the group puts it away. */
export function NotKept({ refused, putAway }: { refused: Refused[]; putAway: (id: string) => void }) {
  return (
    <div role="status" aria-label={t`Not recorded`}>
      {refused.length > 0 && (
        <List>
          {refused.map(({ id, text, why }) => (
            <li key={id}>
              <Trans>
                <strong>Not recorded: {text}.</strong> {why} Type it again where it belongs.
              </Trans>{" "}
              <TextButton onPress={() => putAway(id)}>
                <Trans>Put this line away</Trans>
              </TextButton>
            </li>
          ))}
        </List>
      )}
    </div>
  );
}
