import { useEffect, useMemo, useState } from 'react';
import type { LetterFile } from '@mistpeak/contract/mail';
import { useSmallerPicture } from '../../live/smaller-picture';
import { Button } from '../../pieces/button';
import { SelectField } from '../../pieces/field';
import { blobOf, fileOf, octetsOf } from './letter-files';
import { octetWords, waitWords } from './words';

const SIDES = [1280, 800, 640, 480, 320, 200] as const;
const QUALITIES = [
  { quality: 0.75, words: 'good' },
  { quality: 0.5, words: 'fair' },
  { quality: 0.3, words: 'coarse' },
  { quality: 0.15, words: 'rough' },
] as const;

/** A picture before and after, with what it costs on the air; taken over by one press. */
export function PictureShrink({
  file,
  beforeMs,
  msPerOctet,
  take,
  leave,
}: {
  file: LetterFile;
  /** As it was weighed; unknown while it is. */
  beforeMs: number | undefined;
  msPerOctet: number;
  take: (smaller: LetterFile) => void;
  leave: () => void;
}) {
  const [side, setSide] = useState<number>(480);
  const [quality, setQuality] = useState<number>(0.3);
  const before = useMemo(() => blobOf(file), [file]);
  const smaller = useSmallerPicture(before, side, quality);
  const after = smaller && !smaller.failed ? smaller.smaller : undefined;
  const cost = (octets: number): string => `${octetWords(octets)}, about ${waitWords(octets * msPerOctet)}`;
  const name = `${file.name.replace(/\.[^.]*$/, '')}.jpg`;
  return (
    <section
      aria-label={`Make ${file.name} smaller`}
      className="flex flex-col gap-3 border-y border-line py-3"
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <SelectField
          label="Longest side"
          value={String(side)}
          onChange={({ target }) => setSide(Number(target.value))}
        >
          {SIDES.map((px) => (
            <option key={px} value={px}>
              {px} px
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Quality"
          value={String(quality)}
          onChange={({ target }) => setQuality(Number(target.value))}
        >
          {QUALITIES.map((one) => (
            <option key={one.quality} value={one.quality}>
              {one.words}
            </option>
          ))}
        </SelectField>
      </div>
      <div className="grid gap-4 sm:grid-cols-2">
        <Shown
          label="Before"
          picture={before}
          words={
            beforeMs === undefined
              ? octetWords(octetsOf(file))
              : `${octetWords(octetsOf(file))}, about ${waitWords(beforeMs)}`
          }
        />
        {smaller?.failed ? (
          <p className="text-[14px] text-look">
            This picture cannot be read here. Send it as it is, or leave it out.
          </p>
        ) : (
          <Shown
            label="After"
            picture={after}
            words={after ? `${cost(after.size)} · ${smaller?.width} × ${smaller?.height}` : 'is being made …'}
          />
        )}
      </div>
      <div className="flex gap-3">
        <Button kind="main" disabled={!after} onClick={() => after && void fileOf(after, name).then(take)}>
          Take the smaller one
        </Button>
        <Button onClick={leave}>Leave it as it is</Button>
      </div>
    </section>
  );
}

function Shown({ label, picture, words }: { label: string; picture: Blob | undefined; words: string }) {
  const address = useMemo(() => picture && URL.createObjectURL(picture), [picture]);
  useEffect(() => () => void (address !== undefined && URL.revokeObjectURL(address)), [address]);
  return (
    <figure className="flex min-w-0 flex-col gap-1">
      {address && (
        <img
          src={address}
          alt={`${label} it is made smaller`}
          className="max-h-60 max-w-full self-start border border-line object-contain"
        />
      )}
      <figcaption className="text-[14px]">
        <strong>{label}</strong>: {words}
      </figcaption>
    </figure>
  );
}
