import styled from "styled-components";

export const Cell = styled.td`
  width: 8rem;
`;
