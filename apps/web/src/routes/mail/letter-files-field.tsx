import { useState } from 'react';
import type { LetterFile, WeightView } from '@mistpeak/contract/mail';
import { Button } from '../../pieces/button';
import { fileOf, isPicture, octetsOf } from './letter-files';
import { PictureShrink } from './picture-shrink';
import { octetWords, waitWords } from './words';

const LARGEST_FILE = 2_500_000;

/** What goes with the letter, each with its cost; pictures can be made smaller. */
export function LetterFiles({
  files,
  weight,
  set,
}: {
  files: readonly LetterFile[];
  weight: WeightView | undefined;
  set: (files: readonly LetterFile[]) => void;
}) {
  const [shrinking, setShrinking] = useState<number>();
  const [tooLarge, setTooLarge] = useState<string>();
  const add = async (list: FileList | null): Promise<void> => {
    setTooLarge(undefined);
    const added: LetterFile[] = [];
    for (const file of list ?? []) {
      // A picture is made smaller in any case before it goes.
      if (file.size > LARGEST_FILE) setTooLarge(file.name);
      else added.push(await fileOf(file, file.name));
    }
    set([...files, ...added]);
    const picture = added.findIndex(isPicture);
    if (picture >= 0) setShrinking(files.length + picture);
  };
  const msPerOctet = weight ? 1000 / weight.pace.octetsPerSecond : 20;
  return (
    <section aria-label="Files" className="flex flex-col gap-2">
      <ul>
        {files.map((file, i) => (
          <li
            key={i}
            className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-t border-line py-1.5 text-[14px]"
          >
            <span className="min-w-0 flex-1 truncate">{file.name}</span>
            <span className="font-mono text-[13.5px]">
              {octetWords(octetsOf(file))}
              {weight?.files[i] && ` · ${waitWords(weight.files[i].ms)}`}
            </span>
            {isPicture(file) && shrinking !== i && (
              <Button onClick={() => setShrinking(i)}>Make it smaller</Button>
            )}
            <Button
              onClick={() => {
                set(files.filter((_, at) => at !== i));
                setShrinking(undefined);
              }}
            >
              Leave {file.name} out
            </Button>
          </li>
        ))}
      </ul>
      {shrinking !== undefined && files[shrinking] && (
        <PictureShrink
          file={files[shrinking]}
          beforeMs={weight?.files[shrinking]?.ms}
          msPerOctet={msPerOctet}
          take={(smaller) => {
            set(files.map((file, i) => (i === shrinking ? smaller : file)));
            setShrinking(undefined);
          }}
          leave={() => setShrinking(undefined)}
        />
      )}
      {tooLarge !== undefined && (
        <p className="text-[14px] text-look">
          {tooLarge} is over 2.5 MB: make it smaller outside first. Radio mail carries a few thousand octets a
          minute.
        </p>
      )}
      <label className="self-start rounded-[7px] border-[1.5px] border-edge px-3 py-1.5 text-[14px] font-[620] focus-within:outline-2 focus-within:outline-proved max-md:min-h-11">
        Add a file
        <input
          type="file"
          multiple
          className="sr-only"
          onChange={({ target }) => void add(target.files).then(() => (target.value = ''))}
        />
      </label>
    </section>
  );
}
