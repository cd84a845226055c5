/**
 * The convention school of SSIDs: what others will read into the number.
 * Common practice, no binding source; every number stays free to choose.
 */
export const SSID_ROLES: readonly string[] = [
  'home or primary station',
  'general use, digipeater or mailbox',
  'general use, digipeater or mailbox',
  'general use, digipeater or mailbox',
  'general use, digipeater or mailbox',
  'other network or phone',
  'special activity',
  'handheld',
  'boat or second main station',
  'primary mobile',
  'internet or radio-mail gateway',
  'balloon or aircraft',
  'one-way tracker',
  'weather station',
  'truck',
  'generic',
];

export function ssidRole(ssid: number): string {
  return SSID_ROLES[ssid] ?? 'generic';
}
