import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, type RefObject, useState } from "react";
import { Button } from "../../ui/Button";
import { Tick } from "../../ui/controls";
import { OnScreen, Row, Soft } from "../../ui/layout";
import { download, fileName, oneFile } from "../../ui/oneFile";

type Props = {
  page: RefObject<HTMLDivElement | null>;
  title: string;
  ruled?: boolean;
  setRuled?: (ruled: boolean) => void;
  children?: ReactNode;
};

/** Print it, or take it away as one file. */
export function TakeAway({ page, title, ruled, setRuled, children }: Props) {
  const [says, setSays] = useState("");
  const save = async () => {
    if (!page.current) return;
    setSays(t`Making the file …`);
    try {
      download(await oneFile(page.current, title), fileName(title, "html"));
      setSays(t`Saved: one file with all pictures, to open in any browser.`);
    } catch {
      setSays(t`A picture could not be fetched, so there is no file. Try again with the network.`);
    }
  };
  return (
    <OnScreen>
      <Row>
        <Button onPress={() => window.print()}>
          <Trans>Print</Trans>
        </Button>
        <Button onPress={() => void save()}>
          <Trans>Save as one file</Trans>
        </Button>
        {children}
      </Row>
      {setRuled && (
        <Tick isSelected={ruled ?? false} onChange={setRuled}>
          <Trans>leave room on paper to write by hand where nothing is written</Trans>
        </Tick>
      )}
      <Soft role="status">{says}</Soft>
    </OnScreen>
  );
}
