import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useEffect } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { colour, narrow, phone, print } from "./theme";

const Page = styled.div`
  display: grid;
  grid-template-rows: auto auto 1fr;
  min-height: 100vh;
`;

const Top = styled.header`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 31rem) minmax(0, 1fr);
  align-items: center;
  gap: 0.5rem 1.25rem;
  min-height: 64px;
  padding: 0.4rem 1.25rem;
  border-bottom: 1px solid ${colour.hairline};
  ${narrow} {
    grid-template-columns: minmax(0, 1fr) auto;
    & > :nth-child(2) {
      grid-column: 1 / -1;
      grid-row: 2;
    }
  }
  ${phone} {
    gap: 0.2rem 0.8rem;
    padding: 0.2rem 1rem;
  }
  ${print} {
    display: block;
    min-height: 0;
    padding: 0 0 0.6rem;
    border: 0;
    & > :not(:first-child) {
      display: none;
    }
  }
`;

const Brand = styled.div`
  display: flex;
  align-items: center;
  gap: 0.7rem;
  min-width: 0;
  & > a {
    display: flex;
    align-items: center;
    gap: 0.45rem;
    color: ${colour.ink};
    font-size: 1.15rem;
    font-weight: 700;
    text-decoration: none;
  }
  & > div {
    min-width: 0;
    padding-left: 0.7rem;
    border-left: 1px solid ${colour.hairline};
    line-height: 1.25;
  }
  strong a {
    color: inherit;
    text-decoration-color: ${colour.hairline};
  }
  strong {
    display: -webkit-box;
    overflow: hidden;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
  }
  small {
    display: block;
    color: ${colour.soft};
    font-size: 0.82rem;
  }
  ${phone} {
    small {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    & > a {
      justify-content: center;
      min-width: 44px;
      min-height: 44px;
    }
    & > a > span {
      display: none;
    }
  }
  ${print} {
    & > a {
      display: none;
    }
    & > div {
      padding: 0;
      border: 0;
    }
  }
`;

const Who = styled.div`
  max-width: 46vw;
  justify-self: end;
  text-align: right;
  line-height: 1.25;
  small {
    display: block;
    color: ${colour.soft};
    font-size: 0.82rem;
  }
`;

const Body = styled.div<{ $margin: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) ${({ $margin }) => ($margin ? "270px" : "")};
  & > main {
    display: grid;
    min-width: 0;
  }
  ${print} {
    display: block;
    & > main {
      display: block;
    }
  }
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
    & > main {
      align-content: start;
    }
  }
`;

const Margin = styled.aside<{ $onPaper: boolean }>`
  padding: 1.25rem;
  border-left: 3px double ${colour.marginLine};
  background: ${colour.margin};
  font-size: 0.95rem;
  & > h2 {
    margin-bottom: 0.3rem;
    font-size: 0.95rem;
  }
  ${narrow} {
    border-top: 3px double ${colour.marginLine};
    border-left: 0;
  }
  ${print} {
    display: ${({ $onPaper }) => ($onPaper ? "block" : "none")};
    padding: 0;
    border: 0;
    background: none;
    & > h2,
    button {
      display: none;
    }
  }
`;

const Skip = styled.a<{ $nth: number }>`
  position: absolute;
  top: ${({ $nth }) => `${0.5 + 3 * $nth}rem`};
  left: -100vw;
  &:focus {
    left: 1rem;
    z-index: 2;
    padding: 0.4rem 0.8rem;
    background: ${colour.page};
  }
`;

type Props = {
  title: string;
  lab?: string;
  labTo?: string;
  about?: ReactNode;
  line?: ReactNode;
  who?: ReactNode;
  notice?: ReactNode;
  margin?: ReactNode;
  marginTitle?: string;
  marginOnPaper?: boolean;
  children: ReactNode;
};

/** Top: mark, lab, stage line, who. Middle: the work. Right: the margin, under the work where it is narrow. */
export function Frame({
  title,
  lab,
  labTo,
  about,
  line,
  who,
  notice,
  margin,
  marginTitle = t`In the margin`,
  marginOnPaper = false,
  children,
}: Props) {
  useEffect(() => {
    document.title = t`${title} · Pipette`;
  }, [title]);
  return (
    <Page>
      <Skip href="#work" $nth={0}>
        <Trans>To the content</Trans>
      </Skip>
      {margin !== undefined && (
        <Skip href="#margin" $nth={1}>
          <Trans>To “{marginTitle}”</Trans>
        </Skip>
      )}
      <Top>
        <Brand>
          <Link to="/" aria-label={t`Pipette, start`}>
            <svg width="19" height="28" viewBox="0 0 32 48" aria-hidden>
              <path
                d="M12 2h8v9c5 2 7 6 7 10s-2 8-6 9v10l-3 6h-4l-3-6V30c-4-1-6-5-6-9s2-8 7-10z"
                fill={colour.page}
                stroke={colour.ink}
                strokeWidth="2.4"
                strokeLinejoin="round"
              />
              <path
                d="M6.500 22h19c-.5 4-2.500 6-5.500 7v10l-2.500 5h-3L12 39V29c-3-1-5-3-5.500-7z"
                fill={colour.table}
              />
            </svg>
            <span>
              <Trans>Pipette</Trans>
            </span>
          </Link>
          {lab && (
            <div>
              <strong>{labTo ? <Link to={labTo}>{lab}</Link> : lab}</strong>
              {about && <small>{about}</small>}
            </div>
          )}
        </Brand>
        <div>{line}</div>
        <Who>{who}</Who>
      </Top>
      <div>{notice}</div>
      <Body $margin={margin !== undefined}>
        <main id="work">{children}</main>
        {margin !== undefined && (
          <Margin $onPaper={marginOnPaper} id="margin">
            <h2>{marginTitle}</h2>
            {margin}
          </Margin>
        )}
      </Body>
    </Page>
  );
}
