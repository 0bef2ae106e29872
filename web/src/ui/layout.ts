import styled from "styled-components";
import { colour, font, narrow, phone, print } from "./theme";

/** A column of work. */
export const Column = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: 0.9rem;
  min-width: 0;
  padding: 1.25rem;
  ${phone} {
    padding: 1rem;
  }
  ${print} {
    padding: 0;
  }
`;

/** Two columns of work with a hairline between them; one below the other where it is narrow. */
export const Columns = styled.div<{ $left: string }>`
  display: grid;
  grid-template-columns: ${({ $left }) => $left} minmax(0, 1fr);
  & > * + * {
    border-left: 1px solid ${colour.hairline};
  }
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
    & > * + * {
      border-left: 0;
      border-top: 1px solid ${colour.hairline};
    }
  }
  ${print} {
    display: block;
    & > * + * {
      margin-top: 1.2rem;
      border: 0;
    }
  }
`;

/** Controls that mean nothing on paper. */
export const OnScreen = styled.div`
  ${print} {
    display: none;
  }
`;

export const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
`;

export const Spread = styled(Row)`
  justify-content: space-between;
  align-items: baseline;
`;

export const Soft = styled.p`
  color: ${colour.soft};
`;

export const Small = styled.span`
  color: ${colour.soft};
  font-size: 0.875rem;
`;

/** A measured number. */
export const Num = styled.span`
  font-family: ${font.numbers};
  white-space: nowrap;
`;

export const Narrow = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 1rem;
  width: 100%;
  max-width: 30rem;
`;

export const Form = styled.form`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 1rem;
`;

/** What is wrong with something typed, as it stands below it. */
export const WrongText = styled.p`
  color: ${colour.wrong};
  font-weight: 600;
`;

/** A table of numbers that scrolls sideways by itself where it must. */
export const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th,
  td {
    padding: 0.4rem 0.7rem 0.4rem 0;
    border-bottom: 1px solid ${colour.hairline};
    text-align: left;
    vertical-align: baseline;
  }
  thead th {
    color: ${colour.soft};
    font-size: 0.9rem;
  }
  th {
    font-weight: 600;
  }
  td[data-number],
  th[data-number] {
    text-align: right;
    white-space: nowrap;
  }
  td[data-number] {
    font-family: ${font.numbers};
  }
  ${print} {
    font-size: 0.8rem;
    th,
    td {
      padding: 0.2rem 0.4rem 0.2rem 0;
    }
    tr {
      break-inside: avoid;
    }
  }
`;
