import { passcode } from '@mistpeak/core/callsign/passcode';

export function Passcode({ call }: { call: string }) {
  return (
    <section aria-label="Passcode" className="border-t-[1.5px] border-ink pt-2.5">
      <h2>Passcode of the APRS internet service</h2>
      <p className="py-1 font-mono text-[1.6rem] font-[600]">{passcode(call)}</p>
      <p className="text-[13.5px] text-ink2">
        A public hash of the call without its SSID, computed here in an instant. It is no secret and proves
        nothing; the service asks for it before it passes packets on. Nothing is needed for receiving.
      </p>
    </section>
  );
}
