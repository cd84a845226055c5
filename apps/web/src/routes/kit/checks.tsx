/** One box. */
export function Check({ label, isOn, set }: { label: string; isOn: boolean; set: (isOn: boolean) => void }) {
  return (
    <label className="flex items-center gap-2 text-[14px] max-md:min-h-11">
      <input
        type="checkbox"
        checked={isOn}
        onChange={({ target }) => set(target.checked)}
        className="size-4 accent-[var(--proved)]"
      />
      {label}
    </label>
  );
}

/** Several of one list, in its order. */
export function ChecksOf<Value extends string>({
  legend,
  all,
  on,
  set,
}: {
  legend: string;
  all: readonly Value[];
  on: readonly Value[];
  set: (on: readonly Value[]) => void;
}) {
  return (
    <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
      <legend className="text-[13.5px] font-[620]">{legend}</legend>
      {all.map((one) => (
        <Check
          key={one}
          label={one}
          isOn={on.includes(one)}
          set={(isOn) => set(all.filter((other) => (other === one ? isOn : on.includes(other))))}
        />
      ))}
    </fieldset>
  );
}
