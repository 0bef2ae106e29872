import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import styled from "styled-components";
import { useCheck, useKeeps, useNews } from "../../api/check";
import { ButtonLink } from "../../ui/Button";
import { Disclosure } from "../../ui/controls";
import { Frame } from "../../ui/Frame";
import { Column, Narrow, Num, Soft } from "../../ui/layout";
import { version } from "../../version";
import { type MarginNote, Notes } from "../../ui/Notes";
import { Waiting } from "../../ui/Waiting";

const MOST_OFF_S = 120;

const Steps = styled.ol`
  display: grid;
  gap: 0.4rem;
  padding-left: 1.4rem;
  list-style: decimal;
`;

/** How each system takes the certificate in: common practice, no source; the words on the buttons change with versions. */
const SYSTEMS: { name: string; steps: string[] }[] = [
  {
    name: t`iPhone, iPad`,
    steps: [
      t`Open the file in Safari and allow the profile to be loaded.`,
      t`Settings, at the top: “Profile Downloaded”. Install it.`,
      t`Settings, General, About, Certificate Trust Settings: switch it on. Without this it does nothing.`,
    ],
  },
  {
    name: "Android",
    steps: [
      t`Load the file.`,
      t`Settings, Security (or “More security”), Encryption and credentials, Install a certificate, CA certificate.`,
      t`The phone warns that the network may be watched: it says so of every certificate that is added. Install it.`,
    ],
  },
  {
    name: "Chromebook",
    steps: [
      t`Load the file.`,
      t`Settings, Security and privacy, More, Manage certificates, Authorities, Import; tick “for websites”.`,
      t`On a school’s own Chromebooks the administrator can add it for all at once.`,
    ],
  },
  {
    name: t`Windows, Mac`,
    steps: [
      t`Windows: open the file, Install Certificate, Local Machine, and place it in “Trusted Root Certification Authorities”.`,
      t`Mac: open the file with Keychain Access, then set “When using this certificate” to Always Trust.`,
      t`Firefox keeps its own list: Settings, Certificates, View Certificates, Authorities, Import.`,
    ],
  },
];

function Certificate({ fingerprint }: { fingerprint: string }) {
  return (
    <>
      <h2>
        <Trans>The school’s own certificate</Trans>
      </h2>
      <Soft>
        <Trans>
          Without it the browser warns, and a bench that was closed cannot be opened again without network. It is
          trusted once on each device. It can vouch for addresses inside the school’s network only, for no other site.
        </Trans>
      </Soft>
      <p>
        <a href="/authority.crt" download>
          <Trans>Load the certificate</Trans>
        </a>
      </p>
      <p>
        <Trans>Compare its fingerprint (SHA-256) with the one where Pipette was started:</Trans>
      </p>
      <p>
        <Num style={{ whiteSpace: "normal", overflowWrap: "anywhere" }}>{fingerprint}</Num>
      </p>
      {SYSTEMS.map((system) => (
        <Disclosure key={system.name} title={system.name}>
          <Steps>
            {system.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </Steps>
        </Disclosure>
      ))}
    </>
  );
}

const line = (code: string, fine: boolean | null, title: string, text: ReactNode): MarginNote => ({
  code,
  tone: fine === null ? "plain" : fine ? "good" : "caution",
  title,
  text,
});

/** Can this device open Pipette, and what works on it: for whoever sets it up, on a phone before the lesson. */
export function CheckPage() {
  const check = useCheck();
  const news = useNews();
  const keeps = useKeeps();
  if (!check.data) return <Waiting title={t`Does it work here?`} error={check.error} />;
  const { address, fingerprint, off_s } = check.data;
  const secure = window.isSecureContext && "serviceWorker" in navigator;
  const hereOnly = /^https?:\/\/(localhost|127\.|\[::1\])/.test(address);
  const rightClock = Math.abs(off_s) < MOST_OFF_S;
  const notes: MarginNote[] = [
    line(
      "open",
      !hereOnly,
      hereOnly ? t`Only this computer can open it` : t`This device reaches Pipette`,
      hereOnly
        ? t`${address} is this computer itself. Start it with --in-class for phones.`
        : t`Groups’ devices open ${address}/join. This one has ${window.location.origin}.`,
    ),
    line(
      "https",
      secure,
      secure ? t`A bench opens again without network` : t`A bench that was closed needs the network to open again`,
      secure
        ? t`The page is kept on the device. A bench has to be opened once with network.`
        : fingerprint
          ? t`Trust the school’s certificate, below, and open this page by https.`
          : t`Over plain http the browser does not keep the page, and whoever is on the Wi-Fi can read along. Start with --own-certificate or --certificate.`,
    ),
    line(
      "keeps",
      keeps,
      keeps === false ? t`This browser keeps nothing` : t`What is typed is kept on the device`,
      keeps === false
        ? t`Perhaps it is a private window. Readings are kept in the page only, until it is closed.`
        : t`Readings wait here while the network is away, and are sent once.`,
    ),
    line(
      "news",
      news === "waiting" ? null : news === "live",
      {
        waiting: t`Are news live? …`,
        live: t`News come as they happen`,
        late: t`News come late`,
        none: t`News do not come by themselves`,
      }[news],
      news === "live" || news === "waiting"
        ? t`Board and benches show what is new within a second.`
        : t`Something between holds streams back, often a proxy or a filter. Pages look by themselves every few seconds instead.`,
    ),
    line(
      "clock",
      rightClock,
      rightClock ? t`The clock is right` : t`The clock is wrong`,
      rightClock
        ? t`It differs by ${Math.abs(off_s) < 1 ? t`less than a second` : `${Math.round(Math.abs(off_s))} s`} from the server’s.`
        : t`It differs by ${Math.round(Math.abs(off_s) / 60)} minutes from the server’s. Readings typed without network get wrong times.`,
    ),
  ];
  return (
    <Frame title={t`Does it work here?`}>
      <Column>
        <Narrow>
          <h1>
            <Trans>Does it work on this device?</Trans>
          </h1>
          <Soft>
            <Trans>
              Nothing is recorded. Try it on one phone of each kind, in the room and on the Wi-Fi of the lesson.
            </Trans>
          </Soft>
          <h2>
            <Trans>What works here</Trans>
          </h2>
          <Notes notes={notes} />
          {fingerprint && <Certificate fingerprint={fingerprint} />}
          <p>
            <ButtonLink to="/join">
              <Trans>Join a lab</Trans>
            </ButtonLink>
          </p>
          <Soft>{t`Pipette ${version}`}</Soft>
        </Narrow>
      </Column>
    </Frame>
  );
}
