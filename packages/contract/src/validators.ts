import 'reflect-metadata';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { parseComment } from '@mistpeak/core/beacon/beacon';
import { parsePlan } from '@mistpeak/core/beacon/plan-file';
import { parseVoiceFrequency } from '@mistpeak/core/beacon/voice-frequency';
import { parseCallSign, parseLicenceCall, isPlaceholderCall } from '@mistpeak/core/callsign/callsign';
import { parsePath } from '@mistpeak/core/digipeating/alias';
import { parseFilter } from '@mistpeak/core/internet/filter';
import { parsePlace } from '@mistpeak/core/geo/place';
import { parseVia } from '@mistpeak/core/sessions/via';
import { parseItem } from '@mistpeak/core/kit/kit-file';
import { isSwitchId } from '@mistpeak/core/kit/switches';
import { isSchoolId } from '@mistpeak/core/sheet/schools';
import { Transform } from 'class-transformer';
import { IsInt, Max, Min, ValidateBy, type ValidationOptions } from 'class-validator';
import { parseHost } from './host.js';

/** Below /dev, and not out of it again. */
export const DEVICE_PATH = /^\/dev\/(?!(?:.*\/)?\.\.(?:\/|$))[\w./:-]+$/;

/** `a,b` of a query becomes a list. */
export const CommaList = (): PropertyDecorator =>
  Transform(({ value }: { value: unknown }) =>
    typeof value === 'string' ? value.split(',').filter(Boolean) : value,
  );

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

/** Whatever an address field can carry: a call, a node's alias. */
export const IsAnyAddress = (): PropertyDecorator => readable('isAnyAddress', parseCallSign);

export const IsVia = (): PropertyDecorator => readable('isVia', parseVia);

export const IsPath = (): PropertyDecorator => readable('isPath', parsePath);

export const IsPlace = (): PropertyDecorator => readable('isPlace', parsePlace);

/** Its room depends on what else a beacon says: that is told where the frame is made. */
export const IsBeaconComment = (): PropertyDecorator =>
  readable('isBeaconComment', (text) => parseComment(text));

export const IsVoiceFrequency = (): PropertyDecorator =>
  readable('isVoiceFrequency', (text) => parseVoiceFrequency(text));

export const IsHostName = (): PropertyDecorator => readable('isHostName', parseHost);

/** What a server of the internet side is asked to send. */
export const IsFilter = (): PropertyDecorator => readable('isFilter', parseFilter);

/** A plan of beacons, as core reads it. */
export const IsBeaconPlan = (): PropertyDecorator =>
  ValidateBy({
    name: 'isBeaconPlan',
    validator: {
      validate: (value) => !isMalformed(parsePlan(value)),
      defaultMessage: (context) => {
        const plan = parsePlan(context?.value);
        return isMalformed(plan) ? plan.malformed : 'isBeaconPlan';
      },
    },
  });

/** An item of the kit, as core reads it; the refusal names the field. */
export const IsItem = (options?: ValidationOptions): PropertyDecorator =>
  ValidateBy(
    {
      name: 'isItem',
      validator: {
        validate: (value) => !isMalformed(parseItem(value)),
        defaultMessage: (context) => {
          const values: unknown[] = Array.isArray(context?.value)
            ? (context.value as unknown[])
            : [context?.value];
          return values.map(parseItem).find(isMalformed)?.malformed ?? 'isItem';
        },
      },
    },
    options,
  );

const isNamedTexts = (value: unknown, most: number, longest: number): value is Record<string, string> =>
  typeof value === 'object' &&
  value !== null &&
  Object.keys(value).length <= most &&
  Object.entries(value).every(
    ([name, text]) => name.length <= longest && typeof text === 'string' && text.length <= longest,
  );

/** Which school the operator follows where practitioners differ. */
export const AreSchools = (): PropertyDecorator =>
  ValidateBy({
    name: 'areSchools',
    validator: {
      validate: (value) => isNamedTexts(value, 20, 40) && Object.keys(value).every(isSchoolId),
      defaultMessage: () => 'choose among the schools that are offered',
    },
  });

export const IsShortTexts = (): PropertyDecorator =>
  ValidateBy({
    name: 'isShortTexts',
    validator: {
      validate: (value) => isNamedTexts(value, 200, 300),
      defaultMessage: () => 'at most 200 values of at most 300 characters',
    },
  });

/** Which switch of which item stands how. */
export const IsSwitchSetting = (): PropertyDecorator =>
  ValidateBy({
    name: 'isSwitchSetting',
    validator: {
      validate: (value: unknown) => {
        const { itemId, switch: id, to } = (value ?? {}) as Readonly<Record<string, unknown>>;
        const isText = (text: unknown): text is string => typeof text === 'string' && text.length <= 200;
        return isText(itemId) && isText(to) && isText(id) && isSwitchId(id);
      },
      defaultMessage: () => 'a switch that is known, of an item, and how it stands',
    },
  });

/** A whole number within these bounds, both of them allowed; refused with the bounds. */
export const IsIntWithin =
  (from: number, to: number): PropertyDecorator =>
  (target, key) => {
    const message = { message: `from ${from} to ${to}` };
    for (const decorate of [IsInt(message), Min(from, message), Max(to, message)]) decorate(target, key);
  };
