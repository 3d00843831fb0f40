import { Button, CopyButton, Kbd, SegmentedControl, TextInput } from '@mantine/core';
import { type KeyboardEvent, memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { PanelProps } from '../bench.tsx';
import { type Point, ScreenPicture } from '../screen-picture.tsx';
import type { BenchElement, Weighed } from '../worker/bench-screen.ts';
import { measuring } from '../worker/client.ts';
import { Magnifier } from './magnifier.tsx';

type Side = 'text' | 'background';
type Pair = Record<Side, string>;

const THRESHOLDS: { what: string; required: number }[] = [
  { what: 'Text', required: 4.5 },
  { what: 'Large text', required: 3 },
  { what: 'Icons and controls', required: 3 },
  { what: 'Text, enhanced (AAA)', required: 7 },
  { what: 'Large text, enhanced (AAA)', required: 4.5 },
];
const isHex = (text: string): boolean => /^#[0-9a-f]{6}$/i.test(text);

/** Two colours of the picture held against one another, with what would pass. */
export function ColoursPanel({ shown, view }: PanelProps) {
  const { elements, heightPx, id, title, widthPx } = shown.screen!;
  const measured = useMemo(() => worstFirst(elements), [elements]);
  const first = measured[0]?.contrast;
  const [pair, setPair] = useState<Pair>({
    text: first?.foreground ?? '#1c2630',
    background: first?.background ?? '#faf9f5',
  });
  const [side, setSide] = useState<Side>('text');
  const [asked, setAsked] = useState(0);
  const [chosen, setChosen] = useState<Measured | undefined>(measured[0]);
  const [at, setAt] = useState<Point>({ x: widthPx >> 1, y: heightPx >> 1 });
  const { required } = THRESHOLDS[asked]!;
  const [weighed, setWeighed] = useWeighed(pair, required);
  const under = useColourAt(id, view, at);

  const take = async (which: Side, point: Point) => {
    const other = which === 'text' ? pair.background : pair.text;
    const picked = await measuring.pick(id, view, { ...point, side: which, other, required });
    const next = { ...pair, [which]: picked.colour };
    setPair(next);
    setWeighed({ pair: next, required, weighed: picked.weighed });
    setSide(which === 'text' ? 'background' : 'text');
    setChosen(undefined);
  };
  const steer = (event: KeyboardEvent) => {
    const far = event.shiftKey ? 20 : 1;
    const by = { ArrowLeft: [-far, 0], ArrowRight: [far, 0], ArrowUp: [0, -far], ArrowDown: [0, far] }[
      event.key
    ];
    if (by) {
      const inside = (value: number, most: number) => Math.min(most - 1, Math.max(0, value));
      setAt({ x: inside(at.x + by[0]!, widthPx), y: inside(at.y + by[1]!, heightPx) });
    } else if (event.key === 'Enter') void take(side, at);
    else if (event.key.toLowerCase() === 't') void take('text', at);
    else if (event.key.toLowerCase() === 'b') void take('background', at);
    else return;
    event.preventDefault();
  };
  const use = useCallback((one: Measured) => {
    setPair({ text: one.contrast.foreground, background: one.contrast.background });
    setChosen(one);
  }, []);
  return (
    <>
      <ScreenPicture
        shown={shown}
        name={`${title}. Arrow keys move the crosshair, Shift makes it go faster; T takes the text's colour, B the background's`}
        marks={(chosen?.places ?? []).map(({ boundsPx, ref }) => ({ id: ref, boundsPx, tone: 'active' }))}
        crosshair={at}
        onMove={setAt}
        onPoint={(point) => {
          setAt(point);
          void take(side, point);
        }}
        onKeyDown={steer}
      />
      <section className="side" aria-label="Colours">
        <div className="picker">
          <Magnifier bitmap={shown.bitmap} at={at} colour={under} />
          <Wells pair={pair} side={side} onPair={setPair} onSide={setSide} />
        </div>
        <p className="note">
          Click in the picture, or go there with <Kbd>Tab</Kbd>: arrows move, <Kbd>T</Kbd> takes the text,{' '}
          <Kbd>B</Kbd> the background.{view !== 'plain' && ' Colours are taken as this view shows them.'}
        </p>
        {weighed && <Answer weighed={weighed} pair={pair} asked={asked} onAsk={setAsked} onUse={setPair} />}
        <h3>Measured on this screen, worst first</h3>
        <MeasuredList measured={measured} chosen={chosen} onUse={use} />
      </section>
    </>
  );
}

// The crosshair moves with each frame; what does not depend on it is not drawn again.

const Wells = memo(function Wells({
  onPair,
  onSide,
  pair,
  side,
}: {
  pair: Pair;
  side: Side;
  onPair(pair: Pair): void;
  onSide(side: Side): void;
}) {
  return (
    <div className="wells">
      <SegmentedControl
        aria-label="The next click takes"
        transitionDuration={0}
        data={[
          { value: 'text', label: 'Next click: text' },
          { value: 'background', label: 'background' },
        ]}
        value={side}
        onChange={(value) => onSide(value as Side)}
      />
      {(['text', 'background'] as const).map((one) => (
        <div className="well" key={one}>
          <span>{one === 'text' ? 'Text' : 'Background'}</span>
          <span className="swatch" style={{ background: pair[one] }} />
          <TextInput
            aria-label={one === 'text' ? 'Text colour' : 'Background colour'}
            value={pair[one]}
            error={isHex(pair[one]) ? undefined : 'write it as #1c2630'}
            onChange={({ currentTarget }) => onPair({ ...pair, [one]: currentTarget.value.trim() })}
          />
          <Copy colour={pair[one]} />
        </div>
      ))}
    </div>
  );
});

const Answer = memo(function Answer({
  asked,
  onAsk,
  onUse,
  pair,
  weighed,
}: {
  weighed: Weighed;
  pair: Pair;
  asked: number;
  onAsk(threshold: number): void;
  onUse(pair: Pair): void;
}) {
  return (
    <div className="answer">
      <div className="ratio">
        <p role="status" className="spoken large">
          {weighed.said} : 1
        </p>
        <p className="sample" style={{ color: pair.text, background: pair.background }} aria-hidden="true">
          Aa 12:40 <b>Aa</b>
        </p>
      </div>
      <ul className="thresholds">
        {THRESHOLDS.map(({ required, what }, i) => (
          <li key={what}>
            <label>
              <input type="radio" name="asked" checked={i === asked} onChange={() => onAsk(i)} />
              <span>{what}</span>
              <span>{required} : 1</span>
              {weighed.ratio >= required ? (
                <span className="passed">■ passed</span>
              ) : (
                <span className="failed">▲ failed</span>
              )}
            </label>
          </li>
        ))}
      </ul>
      <Suggestions weighed={weighed} pair={pair} required={THRESHOLDS[asked]!.required} onUse={onUse} />
    </div>
  );
});

const MeasuredList = memo(function MeasuredList({
  chosen,
  measured,
  onUse,
}: {
  measured: readonly Measured[];
  chosen?: Measured;
  onUse(one: Measured): void;
}) {
  return (
    <ol className="lines">
      {measured.map((one) => (
        <li key={one.id}>
          <button type="button" aria-current={one.id === chosen?.id || undefined} onClick={() => onUse(one)}>
            <span className="number">{Math.floor(one.contrast.ratio * 100) / 100}</span>
            <span className="swatch small" style={{ background: one.contrast.background }}>
              <span style={{ background: one.contrast.foreground }} />
            </span>
            <span dir="auto">{one.shown || 'an icon'}</span>
            {one.places.length > 1 && <span className="origin">in {one.places.length} places</span>}
          </button>
        </li>
      ))}
    </ol>
  );
});

/** What looks alike is listed once. */
interface Measured {
  id: string;
  shown: string;
  contrast: NonNullable<BenchElement['contrast']>;
  places: BenchElement[];
}

function worstFirst(elements: readonly BenchElement[]): Measured[] {
  const found = new Map<string, Measured>();
  for (const element of elements) {
    const { contrast, shown } = element;
    if (!contrast) continue;
    const id = [shown, contrast.foreground, contrast.background].join(' ');
    const known = found.get(id);
    if (known) known.places.push(element);
    else found.set(id, { id, shown, contrast, places: [element] });
  }
  return [...found.values()].sort((a, b) => a.contrast.ratio - b.contrast.ratio);
}

interface Answered {
  pair: Pair;
  required: number;
  weighed: Weighed;
}

/** Asks the worker, unless the answer came with the colours themselves. */
function useWeighed(pair: Pair, required: number): [Weighed | undefined, (answer: Answered) => void] {
  const [answer, setAnswer] = useState<Answered>();
  const { background, text } = pair;
  const isAnswered =
    answer?.required === required && answer.pair.text === text && answer.pair.background === background;
  useEffect(() => {
    let current = true;
    if (!isAnswered && isHex(text) && isHex(background))
      void measuring
        .weigh(text, background, required)
        .then((weighed) => current && setAnswer({ pair: { text, background }, required, weighed }));
    return () => {
      current = false;
    };
  }, [text, background, required, isAnswered]);
  return [answer?.weighed, setAnswer];
}

/** The colour under the crosshair; of a quick pointer, only where it is now is asked for. */
function useColourAt(id: string, view: PanelProps['view'], { x, y }: Point): string {
  const [colour, setColour] = useState('');
  const asking = useRef(false);
  const wanted = useRef({ x, y });
  useEffect(() => {
    wanted.current = { x, y };
    const ask = async () => {
      asking.current = true;
      const asked = wanted.current;
      setColour(await measuring.colourAt(id, view, asked.x, asked.y));
      asking.current = false;
      if (wanted.current !== asked) void ask();
    };
    if (!asking.current) void ask();
  }, [id, view, x, y]);
  return colour;
}

function Suggestions({
  onUse,
  pair,
  required,
  weighed,
}: {
  weighed: Weighed;
  pair: Pair;
  required: number;
  onUse(pair: Pair): void;
}) {
  if (weighed.ratio >= required) return <p className="note">Nothing need change for {required} : 1.</p>;
  const offers = (['text', 'background'] as const).flatMap((side) => {
    const offer = weighed[side];
    return offer ? [{ side, ...offer }] : [];
  });
  return (
    <>
      <h3>Nearest that reach {required} : 1</h3>
      {offers.length === 0 && <p>No lightness of these hues reaches it; choose another pair.</p>}
      <ul className="offers">
        {offers.map(({ colour, said, side }) => {
          const next = { ...pair, [side]: colour };
          return (
            <li key={side}>
              <span
                className="sample"
                style={{ color: next.text, background: next.background }}
                aria-hidden="true"
              >
                Aa 12:40
              </span>
              <span>
                {side} <code>{colour}</code>, {said} : 1
              </span>
              <Button variant="default" aria-label={`Use ${side} ${colour}`} onClick={() => onUse(next)}>
                Use
              </Button>
              <Copy colour={colour} />
            </li>
          );
        })}
      </ul>
    </>
  );
}

const Copy = ({ colour }: { colour: string }) => (
  <CopyButton value={colour}>
    {({ copied, copy }) => (
      <Button variant="default" aria-label={`Copy ${colour}`} onClick={copy}>
        {copied ? '■ Copied' : 'Copy'}
      </Button>
    )}
  </CopyButton>
);
