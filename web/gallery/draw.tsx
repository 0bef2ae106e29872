import { i18n } from "@lingui/core";
import { I18nProvider as Sentences } from "@lingui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { Fragment, StrictMode } from "react";
import { I18nProvider } from "react-aria-components";
import { createRoot } from "react-dom/client";
import { MemoryRouter } from "react-router";
import styled from "styled-components";
import { locale } from "../src/language";
import { GlobalStyle } from "../src/ui/GlobalStyle";
import { colour } from "../src/ui/theme";
import { CELL_STATES } from "./cells";
import { CLASS_STATES } from "./classes";
import { MATERIALS } from "./materials";
import { PACK_STATES } from "./packs";
import type { State } from "./state";
import { UI_STATES } from "./ui";

const PARTS: Record<string, State[]> = {
  Class: CLASS_STATES,
  Cells: CELL_STATES,
  Packs: PACK_STATES,
  Parts: UI_STATES,
};

const Page = styled.main`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 22rem), 1fr));
  gap: 1.5rem;
  padding: 1rem;
  h1 {
    grid-column: 1 / -1;
  }
`;

const Frame = styled.section`
  min-width: 0;
  padding: 0.75rem;
  border: 1px solid ${colour.hairline};
  h2 {
    padding-bottom: 0.5rem;
  }
`;

const nothingFetched = new QueryClient({ defaultOptions: { queries: { enabled: false, staleTime: Infinity } } });
nothingFetched.setQueryData(["materials"], MATERIALS);

/** Every part in every state, one frame a state; `?of=Packs` shows one part of them. */
export function draw(): void {
  const root = document.getElementById("root");
  if (!root) return;
  const wanted = new URLSearchParams(location.search).get("of");
  const shown = Object.entries(PARTS).filter(([part]) => wanted === null || part === wanted);
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={nothingFetched}>
        <I18nProvider locale={locale}>
          <Sentences i18n={i18n}>
            <MemoryRouter>
              <GlobalStyle />
              <Page>
                {shown.map(([part, states]) => (
                  <Fragment key={part}>
                    <h1>{part}</h1>
                    {states.map(({ name, drawn }) => (
                      <Frame key={name} aria-label={name}>
                        <h2>{name}</h2>
                        {drawn}
                      </Frame>
                    ))}
                  </Fragment>
                ))}
              </Page>
            </MemoryRouter>
          </Sentences>
        </I18nProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
