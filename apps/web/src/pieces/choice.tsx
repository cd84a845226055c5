/** A yes or no, with its words beside it. */
export function Choice({ label, isOn, set }: { label: string; isOn: boolean; set: (isOn: boolean) => void }) {
  return (
    <label className="flex min-h-8 items-center gap-2.5 text-[14.5px] max-md:min-h-11">
      <input
        type="checkbox"
        className="size-4.5 shrink-0"
        checked={isOn}
        onChange={({ target }) => set(target.checked)}
      />
      {label}
    </label>
  );
}
