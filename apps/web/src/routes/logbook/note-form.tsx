import { useState } from 'react';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useSmallerPicture } from '../../live/smaller-picture';
import { Button } from '../../pieces/button';
import { FileButton } from '../../pieces/file-button';
import { ProblemNote } from '../../pieces/problem-note';
import { base64Of } from '../../pieces/base64';

/** Enough to read a dial on it. */
const LONGEST_PX = 1280;
const QUALITY = 0.7;

/** A word of one's own, with a picture perhaps, which is made smaller before it is kept. */
export function NoteForm() {
  const { values, set, drop } = useDraft('logbook note', { words: '' });
  const [file, setFile] = useState<File>();
  const made = useSmallerPicture(file, LONGEST_PX, QUALITY);
  const { problem, isBusy, attempt } = useAttempt();
  const isMaking = file !== undefined && made === undefined;
  const keep = async (): Promise<void> => {
    const picture = made && !made.failed ? await base64Of(made.smaller) : undefined;
    await command('POST', '/logbook/notes', {
      words: values.words,
      ...(picture === undefined ? {} : { pictureBase64: picture }),
    });
    drop();
    setFile(undefined);
  };
  return (
    <form
      noValidate
      aria-label="New note"
      className="flex max-w-[46rem] flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void attempt(keep);
      }}
    >
      <label className="text-[13.5px] font-[620]">
        Note
        <textarea
          rows={2}
          value={values.words}
          onChange={({ target }) => set({ words: target.value })}
          className="mt-1 block w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 text-[15px] font-[400]"
        />
      </label>
      <div className="flex flex-wrap items-center gap-2">
        <Button type="submit" disabled={isBusy || isMaking || values.words.trim() === ''}>
          Write it down
        </Button>
        <FileButton label="Picture of the note" accept="image/*" take={setFile}>
          {file ? 'Another picture …' : 'With a picture …'}
        </FileButton>
        {file && (
          <span className="text-[14px] text-ink2">
            {file.name}
            {made?.failed ? ': this is no picture that can be read' : ''}
          </span>
        )}
      </div>
      {problem && <ProblemNote problem={problem} />}
    </form>
  );
}
