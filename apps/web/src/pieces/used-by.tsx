/** What uses a thing, beside the button that removes it; what is saved keeps it as it was. */
export function UsedBy({ names }: { names: readonly string[] }) {
  if (names.length === 0) return null;
  return (
    <p className="self-center text-[13.5px] text-ink2">
      Used by {names.map((name) => `“${name}”`).join(', ')}.
    </p>
  );
}
