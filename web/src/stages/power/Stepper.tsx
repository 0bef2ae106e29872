import { t } from "@lingui/core/macro";
import styled from "styled-components";
import { Button } from "../../ui/Button";
import { font } from "../../ui/theme";

const Line = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 3.6rem auto;
  align-items: center;
  gap: 0.3rem;
  button {
    min-width: 44px;
  }
  output {
    text-align: center;
    font-family: ${font.numbers};
  }
`;

type Props = {
  label: string;
  shown: string;
  less: (() => void) | null;
  more: (() => void) | null;
};

/** A number that is made smaller and larger by steps. */
export function Stepper({ label, shown, less, more }: Props) {
  return (
    <Line role="group" aria-label={label}>
      <span>{label}</span>
      <Button aria-label={t`Less: ${label}`} isDisabled={less === null} onPress={() => less?.()}>
        −
      </Button>
      <output aria-live="polite">{shown}</output>
      <Button aria-label={t`More: ${label}`} isDisabled={more === null} onPress={() => more?.()}>
        +
      </Button>
    </Line>
  );
}
