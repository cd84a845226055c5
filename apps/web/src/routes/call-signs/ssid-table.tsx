import { Fragment, useState } from 'react';
import { misreading } from '@mistpeak/core/own-calls/collisions';
import { SSID_ROLES } from '@mistpeak/core/callsign/roles';
import type { AprsSymbol } from '@mistpeak/core/aprs/report';
import { symbolName } from '@mistpeak/core/aprs/symbols';
import type { OperatorView } from '@mistpeak/contract/operator';
import type { OwnStationView } from '@mistpeak/contract/own-station';
import { useLive } from '../../live/store';
import { StationForm } from './station-form';
import { SymbolMark } from '../../pieces/symbol-mark';
import { Table } from '../../pieces/table';

/** All sixteen SSIDs: what others read into each, and which of my devices uses it. */
export function SsidTable({
  operator,
  stations,
}: {
  operator: OperatorView;
  stations: readonly OwnStationView[];
}) {
  const [edited, edit] = useState<string>();
  const close = (): void => edit(undefined);
  return (
    <Table
      columns={[
        { head: 'Call', className: 'w-24' },
        { head: 'Others read (convention)', className: 'w-[32%]' },
        'My device',
        { head: 'Change', className: 'w-20', isHidden: true },
      ]}
      className="w-full text-[14px]"
    >
      {SSID_ROLES.map((convention, ssid) => {
        const mine = stations.filter((station) => station.ssid === ssid);
        const call = ssid === 0 ? operator.call : `${operator.call}-${ssid}`;
        return (
          <Fragment key={ssid}>
            {mine.map((station) => (
              <Row
                key={station.id}
                call={call}
                convention={convention}
                station={station}
                edit={() => edit(station.id)}
              />
            ))}
            {mine.length === 0 && (
              <Row call={call} convention={convention} edit={() => edit(`new ${ssid}`)} />
            )}
            {edited === `new ${ssid}` && <FormRow ssid={ssid} close={close} />}
            {mine.map(
              (station) =>
                edited === station.id && (
                  <FormRow key={station.id} ssid={ssid} station={station} close={close} />
                ),
            )}
          </Fragment>
        );
      })}
    </Table>
  );
}

function Row({
  call,
  convention,
  station,
  edit,
}: {
  call: string;
  convention: string;
  station?: OwnStationView;
  edit: () => void;
}) {
  const isUsedHere = useLive((state) => state.beacon?.source === call);
  const misread = station && misreading(station.ssid, station.role);
  return (
    <tr className="border-t border-line align-baseline">
      <th scope="row" className={`py-[5px] font-mono ${station ? 'font-[640]' : 'font-[400] text-ink3'}`}>
        {call}
      </th>
      <td className="pr-3 text-ink2">{convention}</td>
      <td className="pr-3">
        {station && (
          <>
            {station.device}{' '}
            <span className="text-[13px] text-ink2">
              ·{' '}
              <span className="inline-block align-[-4px]">
                <SymbolMark symbol={symbolOf(station)} size={18} />
              </span>{' '}
              {symbolName(symbolOf(station))}
              {isUsedHere ? ' · sent from here' : ''}
            </span>
            {misread && (
              <span className="block text-[13px] text-look">Others will take it for: {misread}.</span>
            )}
          </>
        )}
      </td>
      <td className="text-right">
        <button
          type="button"
          onClick={edit}
          className="rounded-md px-2 text-[13.5px] text-ink2 underline decoration-line underline-offset-4 hover:text-ink max-md:min-h-11"
          aria-label={station ? `Change ${call}, ${station.device}` : `Use ${call}`}
        >
          {station ? 'Change' : 'Use'}
        </button>
      </td>
    </tr>
  );
}

function FormRow({ ssid, station, close }: { ssid: number; station?: OwnStationView; close: () => void }) {
  return (
    <tr>
      <td colSpan={4} className="bg-raise px-4 py-3">
        <StationForm ssid={ssid} {...(station ? { station } : {})} close={close} />
      </td>
    </tr>
  );
}

function symbolOf({ symbolTable, symbolCode }: OwnStationView): AprsSymbol {
  return { table: symbolTable, code: symbolCode };
}
