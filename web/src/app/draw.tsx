import { i18n } from "@lingui/core";
import { I18nProvider as Sentences } from "@lingui/react";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { I18nProvider } from "react-aria-components";
import { flushSync } from "react-dom";
import { createRoot } from "react-dom/client";
import { watchLeaving } from "../api/leaving";
import { queries } from "../api/queries";
import { watchSigningOut } from "../api/signingOut";
import { locale } from "../language";
import { GlobalStyle } from "../ui/GlobalStyle";
import { App } from "./App";
import { drawnInPlace } from "./typedBefore";

/** Draw the application into the page. */
export function draw(): void {
  watchLeaving();
  watchSigningOut();
  const root = document.getElementById("root");
  if (!root) return;
  const all = (
    <StrictMode>
      <QueryClientProvider client={queries}>
        <I18nProvider locale={locale}>
          <Sentences i18n={i18n}>
            <GlobalStyle />
            <App />
          </Sentences>
        </I18nProvider>
      </QueryClientProvider>
    </StrictMode>
  );
  drawnInPlace(() => flushSync(() => createRoot(root).render(all))); // at once: nothing is typed in between
}
