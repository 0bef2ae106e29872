import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Component, type ReactNode } from "react";
import { Column, Soft } from "../ui/layout";
import { Frame } from "../ui/Frame";

/** A page that breaks says so, instead of leaving an empty screen. */
export class Broken extends Component<{ children: ReactNode }, { broken: boolean }> {
  state = { broken: false };

  static getDerivedStateFromError() {
    return { broken: true };
  }

  render() {
    if (!this.state.broken) return this.props.children;
    return (
      <Frame title={t`Something broke`}>
        <Column>
          <h1>
            <Trans>This page broke</Trans>
          </h1>
          <Soft>
            <Trans>
              Everything that was recorded is safe. <a href={window.location.pathname}>Load the page again</a>, or go{" "}
              <a href="/">to the start</a>.
            </Trans>
          </Soft>
        </Column>
      </Frame>
    );
  }
}
