import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { parseComment } from '@mistpeak/core/beacon/beacon';
import { parseCallSign, parseLicenceCall, isPlaceholderCall } from '@mistpeak/core/callsign/callsign';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { parseCoordinate } from '@mistpeak/core/geo/coordinates';
import { ValidateBy, type ValidationOptions } from 'class-validator';
import { parseHost } from './host.js';

/** A field that core can read: its refusal is the message, so form and server say the same. */
function readable(
  name: string,
  read: (value: string, object: object) => unknown,
  options?: ValidationOptions,
): PropertyDecorator {
  const reason = (value: unknown, object: object): Malformed | undefined => {
    if (typeof value !== 'string') return { malformed: 'this is missing', at: 0 };
    const result = read(value, object);
    return isMalformed(result) ? result : undefined;
  };
  return ValidateBy(
    {
      name,
      validator: {
        validate: (value, context) => reason(value, context?.object ?? {}) === undefined,
        defaultMessage: (context) => reason(context?.value, context?.object ?? {})?.malformed ?? name,
      },
    },
    options,
  );
}

export const IsLicenceCall = (): PropertyDecorator => readable('isLicenceCall', parseLicenceCall);

/** A call with SSID that may be sent: no placeholder. */
export const IsCallSign = (): PropertyDecorator =>
  readable('isCallSign', (text) =>
    isPlaceholderCall(text)
      ? { malformed: `${text} is a placeholder: enter your own call`, at: 0 }
      : parseCallSign(text),
  );

export const IsPath = (): PropertyDecorator => readable('isPath', parsePath);

export const IsLatitude = (): PropertyDecorator =>
  readable('isLatitude', (text) => parseCoordinate(text, 'latitude'));

export const IsLongitude = (): PropertyDecorator =>
  readable('isLongitude', (text) => parseCoordinate(text, 'longitude'));

/** A comment's room depends on the form of the position beside it. */
export const IsBeaconComment = (): PropertyDecorator =>
  readable('isBeaconComment', (text, object) =>
    parseComment(text, 'compressed' in object && object.compressed === true),
  );

export const IsHostName = (): PropertyDecorator => readable('isHostName', parseHost);
