/** The usual cautions (common practice, no source); the local rules come before each of them. */
const CAUTIONS = [
  'Transmitting needs a licence, and your own call sign in every frame. Identify at least every 10 minutes and at the end, or as your local rules say.',
  'No encryption and no business traffic. Messages for others are third-party traffic: look up whether your country allows it.',
  'A station that sends by itself is unattended operation: many countries allow it on some frequencies only, or not at all.',
  'Connect an antenna or a dummy load before the radio is keyed, and keep people at a distance from the antenna.',
  'Positions, messages and passwords sent over the air are public, and are kept by others.',
  'Never handle the set while driving.',
  'A battery wants a fuse at its post, a strap and air; no tools and no jewellery across the posts.',
  'Band plans change: the frequency shown is the usual one of your region; the local plan comes first.',
  'Packet radio is no substitute for an emergency call.',
];

export function Cautions() {
  return (
    <section aria-label="Cautions" className="border-t-[1.5px] border-ink pt-2.5">
      <h2 className="pb-1">Cautions</h2>
      <ul className="flex list-disc flex-col gap-1 pl-5 text-[14px] text-ink2">
        {CAUTIONS.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
    </section>
  );
}
