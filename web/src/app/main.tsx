import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { I18nProvider } from "react-aria-components";
import { createRoot } from "react-dom/client";
import { queries } from "../api/queries";
import { GlobalStyle } from "../ui/GlobalStyle";
import { App } from "./App";
import { watchLeaving } from "../api/leaving";

watchLeaving();

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <I18nProvider locale="en-GB">
          <GlobalStyle />
          <App />
        </I18nProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
