import type { Connector } from '@mistpeak/core/kit/connectors';
import { connectorName } from '@mistpeak/core/kit/connectors';
import type { Port } from '@mistpeak/core/kit/item';

/** Each connector as one looks into it, on a field of 24 by 14; plugs are filled, sockets hollow. Our own drawings. */
const FACES: Readonly<Record<Connector, React.ReactNode>> = {
  'two-pin': (
    <>
      <rect x="3" y="1" width="18" height="12" rx="2" />
      <circle cx="8.5" cy="7" r="2.4" className="hole" />
      <circle cx="16" cy="7" r="1.7" className="hole" />
    </>
  ),
  'six-pin': (
    <>
      <circle cx="12" cy="7" r="6" />
      {[0, 1, 2, 3, 4, 5].map((i) => (
        <circle
          key={i}
          cx={12 + 3.4 * Math.cos(i * 1.047)}
          cy={7 + 3.4 * Math.sin(i * 1.047)}
          r="0.9"
          className="hole"
        />
      ))}
    </>
  ),
  headset: <Jack rings={3} />,
  'jack-2.5': <Jack rings={1} />,
  'tnc-radio': <Jack rings={2} />,
  keying: <Jack rings={2} />,
  'digital-audio': <rect x="4" y="4" width="16" height="6" rx="1" />,
  'usb-a': (
    <>
      <rect x="3" y="2" width="18" height="10" rx="1" />
      <rect x="6" y="4" width="12" height="3" className="hole" />
    </>
  ),
  'usb-c': (
    <>
      <rect x="3" y="3" width="18" height="8" rx="4" />
      <rect x="7" y="6" width="10" height="2" rx="1" className="hole" />
    </>
  ),
  'rs232-9': <Shell pins={4} />,
  'rs232-25': <Shell pins={7} />,
  bluetooth: <Waves count={2} />,
  network: <Waves count={3} />,
  'open-air': (
    <>
      <path d="M4 5h4l5-4v12L8 9H4z" />
      <path d="M16 4q3 3 0 6M19 2q5 5 0 10" className="line" />
    </>
  ),
};

function Jack({ rings }: { rings: number }) {
  return (
    <>
      <rect x="1" y="4" width="18" height="6" rx="1" />
      <path d="M19 4h2l2 3-2 3h-2z" />
      {Array.from({ length: rings }, (_, i) => (
        <path key={i} d={`M${16 - 3.5 * i} 4v6`} className="ring" />
      ))}
    </>
  );
}

function Shell({ pins }: { pins: number }) {
  return (
    <>
      <path d="M2 2h20l-2.5 10h-15z" />
      {Array.from({ length: pins }, (_, i) => (
        <circle key={i} cx={12 + (i - (pins - 1) / 2) * (13 / pins)} cy="6" r="0.9" className="hole" />
      ))}
    </>
  );
}

function Waves({ count }: { count: number }) {
  return (
    <>
      <circle cx="4" cy="11" r="1.6" />
      {Array.from({ length: count }, (_, i) => (
        <path
          key={i}
          d={`M4 ${7 - 2.6 * i}q${4 + 2.6 * i} 0 ${4 + 2.6 * i} ${4 + 2.6 * i}`}
          className="line"
        />
      ))}
    </>
  );
}

/** The ports of a thing, drawn small, each with its name for those who do not see it. */
export function PortMarks({ ports }: { ports: readonly Port[] }) {
  if (ports.length === 0) return null;
  return (
    <span className="inline-flex flex-wrap items-center gap-1.5 align-middle">
      {ports.map(({ id, connector, end, profiles }) => {
        const name = [end === 'either' ? '' : end, connectorName(connector), profiles?.join(' and ')]
          .filter(Boolean)
          .join(' ');
        return (
          <svg
            key={id}
            width="26"
            height="15"
            viewBox="0 0 24 14"
            role="img"
            aria-label={name}
            className={`port-mark ${end === 'plug' ? 'is-plug' : ''}`}
          >
            <title>{name}</title>
            {FACES[connector]}
          </svg>
        );
      })}
    </span>
  );
}
