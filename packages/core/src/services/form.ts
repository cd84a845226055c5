import { LONGEST_MESSAGE } from '../aprs/message.js';
import { octetsOf, troubleWithText } from '../messages/text.js';

/** What a field of a form takes. */
export type FieldKind = 'number' | 'address' | 'word' | 'text';
export const FIELD_KINDS: readonly FieldKind[] = ['number', 'address', 'word', 'text'];

export interface FormField {
  /** As it stands in the template: `{name}`. */
  readonly name: string;
  readonly label: string;
  readonly kind: FieldKind;
  /** Of a number: how many digits there are, the prefix reckoned in. */
  readonly digits?: number;
  /** Of a number: what it begins with; empty: without a country prefix. */
  readonly prefix?: string;
  /** Of a word: those that the service knows; empty: any. */
  readonly words?: readonly string[];
}

/** A service as its operator describes it; the form of its text is the service's own. */
export interface ServiceForm {
  readonly name: string;
  readonly addressee: string;
  /** `@{number} {text}`. */
  readonly template: string;
  readonly fields: readonly FormField[];
  /** What has to be done once before it works, and by whom; empty: nothing. */
  readonly optIn: string;
  /** A piece of its answer that says that it has delivered; empty: it never says so. */
  readonly deliveredMark: string;
}

/** Kinds of services to begin with; the addressee is the operator's to give. */
export const FORM_KINDS: Readonly<Record<string, Omit<ServiceForm, 'addressee'>>> = {
  phone: {
    name: 'Text to a phone',
    template: '@{number} {text}',
    fields: [
      { name: 'number', label: 'Number', kind: 'number', digits: 10, prefix: '' },
      { name: 'text', label: 'Text', kind: 'text' },
    ],
    optIn: 'The phone has to be opted in first, by a text from it.',
    deliveredMark: 'delivered',
  },
  mail: {
    name: 'Short mail',
    template: '{address} {text}',
    fields: [
      { name: 'address', label: 'Mail address', kind: 'address' },
      { name: 'text', label: 'Text', kind: 'text' },
    ],
    optIn: '',
    deliveredMark: 'sent to',
  },
  weather: {
    name: 'Weather',
    template: '{ask}',
    fields: [{ name: 'ask', label: 'Ask for', kind: 'text' }],
    optIn: '',
    deliveredMark: '',
  },
  own: {
    name: 'My own form',
    template: '{text}',
    fields: [{ name: 'text', label: 'Text', kind: 'text' }],
    optIn: '',
    deliveredMark: '',
  },
};

/** What is wrong with the description of a form; undefined: it can be used. */
export function troubleWithForm({
  template,
  fields,
}: Pick<ServiceForm, 'template' | 'fields'>): string | undefined {
  const named = [...template.matchAll(/\{(\w+)\}/g)].map((match) => match[1] as string);
  const unknown = named.find((name) => !fields.some((field) => field.name === name));
  if (unknown !== undefined) return `the form has no field “${unknown}”`;
  const unused = fields.find(({ name }) => !named.includes(name));
  if (unused) return `“{${unused.name}}” does not stand in the text`;
  return undefined;
}

export type Composed =
  | { readonly ok: true; readonly text: string }
  | { readonly ok: false; readonly field: string; readonly trouble: string };

/** The strict text, or what is wrong with which field: before it costs air time. */
export function compose(form: ServiceForm, values: Readonly<Record<string, string>>): Composed {
  const filled: Record<string, string> = {};
  for (const field of form.fields) {
    const value = (values[field.name] ?? '').trim();
    const trouble = troubleWithValue(field, value);
    if (trouble !== undefined) return { ok: false, field: field.name, trouble };
    filled[field.name] = field.kind === 'number' ? digitsOf(value) : value;
  }
  const text = form.template.replace(/\{(\w+)\}/g, (_, name: string) => filled[name] ?? '');
  const trouble = troubleWithText(form.addressee, text);
  const last = form.fields.at(-1)?.name ?? '';
  return trouble === undefined ? { ok: true, text } : { ok: false, field: last, trouble };
}

/** How many octets the last field may still have. */
export function roomLeft(form: ServiceForm, values: Readonly<Record<string, string>>): number {
  const text = form.template.replace(/\{(\w+)\}/g, (_, name: string) => (values[name] ?? '').trim());
  return LONGEST_MESSAGE - octetsOf(text);
}

/** People write numbers with blanks, hyphens and a plus sign. */
const digitsOf = (value: string): string => value.replace(/[^\d]/g, '');

function troubleWithValue(
  { kind, digits, prefix = '', words = [] }: FormField,
  value: string,
): string | undefined {
  if (value === '') return 'fill it in';
  switch (kind) {
    case 'number': {
      if (/[^\d\s()+./-]/.test(value)) return 'a number has digits only';
      const found = digitsOf(value);
      if (digits !== undefined && found.length !== digits)
        return `${found.length} digits; this service wants ${digits}${prefix === '' ? ', without a country prefix' : `, beginning with ${prefix}`}`;
      return found.startsWith(prefix) ? undefined : `it has to begin with ${prefix}`;
    }
    case 'address':
      return /^[^\s@]+@[^\s@]+\.[^\s@]+$/.test(value) ? undefined : 'a mail address is name@place';
    case 'word':
      if (/\s/.test(value)) return 'one word';
      return words.length === 0 || words.includes(value) ? undefined : `it knows ${words.join(', ')}`;
    case 'text':
      return undefined;
  }
}
