import { useState } from 'react';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import type { Item } from '@mistpeak/core/kit/item';
import { parseItem } from '@mistpeak/core/kit/kit-file';
import { Button } from '../../pieces/button';
import { sentence } from '../../pieces/field';

/** All of an item as text, the ways through it too: what has no field of its own is changed here. */
export function ItemAsJson({ item, take }: { item: Item; take: (item: Item) => void }) {
  const [text, setText] = useState(() => JSON.stringify(item, null, 2));
  const [refusal, setRefusal] = useState<string>();
  const apply = (): void => {
    const read = readItem(text);
    if (typeof read === 'string') setRefusal(read);
    else take({ ...read, id: item.id });
  };
  return (
    <details>
      <summary className="cursor-pointer text-[13.5px] font-[620] max-md:min-h-11">
        All of it as JSON, ways through it and keying too
      </summary>
      <textarea
        aria-label="The item as JSON"
        value={text}
        onChange={({ target }) => setText(target.value)}
        rows={14}
        spellCheck={false}
        className="mt-1.5 w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono text-[12.5px] text-ink"
      />
      {refusal && (
        <p role="alert" className="text-[14px] font-[560] text-stop">
          {sentence(refusal)}
        </p>
      )}
      <Button onClick={apply}>Take it over</Button>
    </details>
  );
}

/** The item, or why not. */
function readItem(text: string): Item | string {
  try {
    const read = parseItem(JSON.parse(text));
    return isMalformed(read) ? read.malformed : read;
  } catch {
    return 'this is not JSON';
  }
}
