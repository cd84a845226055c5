import type { Chain } from '@mistpeak/core/chain/chain';
import { chosenOption, SCHOOLS, type SchoolChoices, type SchoolId } from '@mistpeak/core/sheet/schools';

/** Where practitioners differ: which school the sheet follows, and what each is good for. */
export function Schools({
  chain,
  used,
  choices,
  choose,
}: {
  chain: Chain;
  /** Those that this sheet asks about. */
  used: readonly SchoolId[];
  choices: SchoolChoices;
  choose: (choices: SchoolChoices) => void;
}) {
  if (used.length === 0) return null;
  return (
    <section aria-label="Schools" className="flex flex-col gap-2.5 border-t-[1.5px] border-ink pt-2">
      <h2>Where practitioners differ</h2>
      {used.map((id) => {
        const option = chosenOption(id, choices, chain);
        return (
          <label key={id} className="text-[14px]">
            {SCHOOLS[id].name}
            <select
              value={option.id}
              onChange={({ target }) => choose({ ...choices, [id]: target.value })}
              className="mt-1 w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 text-ink max-md:min-h-11"
            >
              {SCHOOLS[id].options.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
            <span className="block text-[13px] text-ink2">Good for: {option.goodFor}.</span>
          </label>
        );
      })}
    </section>
  );
}
