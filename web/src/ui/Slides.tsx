import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { Button } from "./Button";
import { Num, Row, Soft, Spread } from "./layout";
import { onTheWall } from "./wall";

/** A good deal larger than on the desk. */
const Wall = styled.main`
  display: grid;
  grid-template-rows: auto 1fr auto;
  gap: 0.3rem;
  padding: 0.4rem 1.3rem;
  ${onTheWall(1.22)}
  h1 {
    font-size: 1.3rem;
    line-height: 1.2;
  }
  button {
    min-height: 34px;
  }
  && small {
    font-size: 1rem;
  }
  --words: 1rem;
  --small: 1rem;
`;

const Idea = styled.section`
  max-width: 62rem;
`;

const SMALLEST = 0.6;

/** How much smaller a slide has to be to stand whole on this screen: tried at its full size first. */
function useFit(of: string | undefined) {
  const wall = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    let frame = 0;
    const fit = (now: number) => {
      wall.current?.style.setProperty("--fit", String(now));
      frame = requestAnimationFrame(() => {
        const over = document.documentElement.scrollHeight / window.innerHeight;
        if (over > 1 && now > SMALLEST) fit(Math.max(SMALLEST, Math.min(now / over, now - 0.002)));
      });
    };
    const again = () => {
      cancelAnimationFrame(frame);
      fit(1);
    };
    again();
    window.addEventListener("resize", again);
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener("resize", again);
    };
  }, [of]);
  return wall;
}

/** `reads`: how the picture is read, from the last row. */
export type Slide = { key: string; title: string; says: ReactNode; picture: ReactNode; reads?: string };

/** One idea a screen, large; the arrow keys go on and back. */
export function Slides({ name, back, slides }: { name: string; back: string; slides: Slide[] }) {
  const [at, setAt] = useState(0);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.altKey || event.ctrlKey || event.metaKey) return;
      const step = { ArrowRight: 1, PageDown: 1, " ": 1, ArrowLeft: -1, PageUp: -1 }[event.key] ?? 0;
      if (step && !(event.target instanceof HTMLButtonElement && event.key === " "))
        setAt((now) => Math.min(slides.length - 1, Math.max(0, now + step)));
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [slides.length]);
  const slide = slides[Math.min(at, slides.length - 1)];
  const wall = useFit(slide?.key);
  return (
    <Wall ref={wall}>
      <title>{t`Projector, ${name} · Pipette`}</title>
      <Spread>
        <h1 aria-live="polite">{slide?.title ?? t`Nothing to show yet`}</h1>
        <Soft>{name}</Soft>
      </Spread>
      <Idea key={slide?.key}>
        {slide?.says && <p>{slide.says}</p>}
        {slide?.picture}
        {slide?.reads && <p>{slide.reads}</p>}
      </Idea>
      <Spread>
        <Row style={{ visibility: slides.length > 1 ? undefined : "hidden" }}>
          <Button onPress={() => setAt(Math.max(0, at - 1))} isDisabled={at === 0}>
            <Trans>← The slide before</Trans>
          </Button>
          <Button onPress={() => setAt(Math.min(slides.length - 1, at + 1))} isDisabled={at >= slides.length - 1}>
            <Trans>The next slide →</Trans>
          </Button>
          <Num>
            <Trans>
              {Math.min(at + 1, slides.length)} of {slides.length}
            </Trans>
          </Num>
        </Row>
        <Link to={back}>
          <Trans>Back to the desk</Trans>
        </Link>
      </Spread>
    </Wall>
  );
}
