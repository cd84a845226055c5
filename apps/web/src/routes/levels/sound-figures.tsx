import { useEffect, useState } from 'react';
import { WINDOW } from '@mistpeak/core/levels/receive-check';
import type { Receiver } from '../../live/sound-at-page';

interface Figures {
  readonly rms: number;
  readonly peak: number;
}

/** Figures that change faster than this cannot be read. */
const EVERY_MS = 250;

/** RMS and peak of the last quarter of a second, large enough for an arm's length. */
export function SoundFigures({ receiver }: { receiver: Receiver }) {
  const [figures, setFigures] = useState<Figures>();
  useEffect(() => {
    let shownAtMs = 0;
    return receiver.heard.listen(() => {
      const now = receiver.heard.stretches.slice(-5);
      const last = now.at(-1);
      if (!last || last.clockMs - shownAtMs < EVERY_MS) return;
      shownAtMs = last.clockMs;
      setFigures({
        rms: Math.max(...now.map(({ rmsDbfs }) => rmsDbfs)),
        peak: Math.max(...now.map(({ peakDbfs }) => peakDbfs)),
      });
    });
  }, [receiver]);
  return (
    <dl className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <Figure term="RMS" value={figures?.rms} />
      <Figure term="Peak" value={figures?.peak} />
      <div className="text-[13px] text-ink3">
        <dt className="inline">Good window </dt>
        <dd className="inline font-mono">
          −{-WINDOW.lowest} to −{-WINDOW.highest} dBFS RMS of a packet
        </dd>
      </div>
    </dl>
  );
}

function Figure({ term, value }: { term: string; value: number | undefined }) {
  const isSomething = value !== undefined && value > -120;
  return (
    <div className="flex items-baseline gap-2">
      <dt className="text-[13.5px] text-ink2">{term}</dt>
      <dd className="font-mono text-[1.7rem] leading-none font-[640] max-md:text-[2.3rem]">
        {isSomething ? `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(0)}` : '–'}
        <span className="pl-1 text-[13.5px] font-[400] text-ink2">dBFS</span>
      </dd>
    </div>
  );
}
