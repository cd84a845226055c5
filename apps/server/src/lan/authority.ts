import { webcrypto, X509Certificate } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { join } from 'node:path';
import {
  BasicConstraintsExtension,
  ExtendedKeyUsage,
  ExtendedKeyUsageExtension,
  KeyUsageFlags,
  Extension,
  KeyUsagesExtension,
  PemConverter,
  SubjectAlternativeNameExtension,
  X509Certificate as Certificate,
  X509CertificateGenerator,
} from '@peculiar/x509';
import { isPrivate, NAME_CONSTRAINTS, permittedSubtrees } from './name-constraints.js';

/** ECDSA on P-256 with SHA-256: what every browser reads. */
const ALGORITHM = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' } as const;
const DAY_MS = 86_400_000;
/** Devices trust it as long as that; a year before its end another is made. */
const AUTHORITY_LASTS_MS = 3 * 365 * DAY_MS;
/** Browsers refuse server certificates that last longer than 398 days (common practice, from memory). */
const SERVER_LASTS_MS = 390 * DAY_MS;
/** A phone's clock may be behind. */
const BEFORE_MS = DAY_MS;

/** What HTTPS needs, in PEM. fingerprint: SHA-256 of the authority's certificate, to compare by eye. */
export interface Credentials {
  readonly key: string;
  readonly cert: string;
  readonly authority: string;
  readonly fingerprint: string;
}

/** names: those that it may vouch for, beside the private networks. */
export interface Authority {
  readonly key: webcrypto.CryptoKey;
  readonly certificate: Certificate;
  readonly names: readonly string[];
}

/**
 * The authority of this installation, made once and kept in the folder, and a certificate of it for these names and addresses.
 * It vouches for this machine's names and for private networks only, so that whoever steals it can pose as nobody else.
 */
export async function credentialsFor(
  names: readonly string[],
  folder: string,
  nowMs: number,
): Promise<Credentials> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const authority =
    (await readAuthority(folder, names, nowMs)) ?? (await makeAuthority(folder, names, nowMs));
  return certify(
    authority,
    names.filter((name) => isPrivate(name) || authority.names.includes(name)),
    nowMs,
  );
}

/** A certificate of that authority for any names: whether it holds is for those to judge who check it. */
export async function certify(
  authority: Authority,
  names: readonly string[],
  nowMs: number,
): Promise<Credentials> {
  const pair = await newPair();
  const certificate = await X509CertificateGenerator.create({
    serialNumber: serial(),
    subject: 'CN=Mistpeak on this network',
    issuer: authority.certificate.subject,
    notBefore: new Date(nowMs - BEFORE_MS),
    notAfter: new Date(nowMs + SERVER_LASTS_MS),
    publicKey: pair.publicKey,
    signingKey: authority.key,
    signingAlgorithm: ALGORITHM,
    extensions: [
      new BasicConstraintsExtension(false, undefined, true),
      new KeyUsagesExtension(KeyUsageFlags.digitalSignature, true),
      new ExtendedKeyUsageExtension([ExtendedKeyUsage.serverAuth]),
      new SubjectAlternativeNameExtension(
        names.map((value) => ({ type: isIP(value) ? ('ip' as const) : ('dns' as const), value })),
      ),
    ],
  });
  const authorityPem = authority.certificate.toString('pem');
  return {
    key: await pemOf(pair.privateKey),
    cert: `${certificate.toString('pem')}\n${authorityPem}\n`,
    authority: authorityPem,
    fingerprint: new X509Certificate(authorityPem).fingerprint256,
  };
}

/** Undefined where there is none, it runs out soon, or this machine has got another name. */
export async function readAuthority(
  folder: string,
  wanted: readonly string[],
  nowMs: number,
): Promise<Authority | undefined> {
  const files = [FILES.key, FILES.certificate, FILES.names].map((name) => join(folder, name));
  if (!files.every((file) => existsSync(file))) return undefined;
  const [key = '', pem = '', list = '[]'] = files.map((file) => readFileSync(file, 'utf8'));
  const certificate = new Certificate(pem);
  const names = JSON.parse(list) as string[];
  if (certificate.notAfter.getTime() < nowMs + SERVER_LASTS_MS) return undefined;
  if (wanted.some((name) => !isIP(name) && !names.includes(name))) return undefined;
  const der = PemConverter.decode(key)[0] as ArrayBuffer;
  return {
    key: await webcrypto.subtle.importKey('pkcs8', der, ALGORITHM, true, ['sign']),
    certificate,
    names,
  };
}

const FILES = { key: 'authority.key', certificate: 'authority.pem', names: 'authority.names.json' };

async function makeAuthority(folder: string, wanted: readonly string[], nowMs: number): Promise<Authority> {
  const keys = await newPair();
  const names = wanted.filter((name) => !isPrivate(name));
  const certificate = await X509CertificateGenerator.createSelfSigned({
    serialNumber: serial(),
    name: 'CN=Mistpeak authority of this installation',
    notBefore: new Date(nowMs - BEFORE_MS),
    notAfter: new Date(nowMs + AUTHORITY_LASTS_MS),
    keys,
    signingAlgorithm: ALGORITHM,
    extensions: [
      new BasicConstraintsExtension(true, 0, true),
      new KeyUsagesExtension(KeyUsageFlags.keyCertSign, true),
      new Extension(NAME_CONSTRAINTS, true, permittedSubtrees(names)),
    ],
  });
  const keyFile = join(folder, FILES.key);
  writeFileSync(keyFile, await pemOf(keys.privateKey), { mode: 0o600 });
  chmodSync(keyFile, 0o600);
  writeFileSync(join(folder, FILES.certificate), certificate.toString('pem'));
  writeFileSync(join(folder, FILES.names), JSON.stringify(names));
  return { key: keys.privateKey, certificate, names };
}

const newPair = (): Promise<webcrypto.CryptoKeyPair> =>
  webcrypto.subtle.generateKey(ALGORITHM, true, ['sign', 'verify']);

/** Sixteen octets, the first below 128 so that the number is positive (RFC 5280, 4.1.2.2). */
const serial = (): string => {
  const octets = webcrypto.getRandomValues(Buffer.alloc(16));
  octets[0] = ((octets[0] as number) & 0x7f) | 0x01;
  return octets.toString('hex');
};

async function pemOf(key: webcrypto.CryptoKey): Promise<string> {
  return PemConverter.encode(await webcrypto.subtle.exportKey('pkcs8', key), 'PRIVATE KEY');
}
