import type { LinkSettings } from '@mistpeak/contract/link';
import type { SoundSetup } from '@mistpeak/contract/sound';

/** `127.0.0.1:8001`, `/dev/ttyUSB0, 9600 Bd` or what a page lends. */
export function addressOf({ kind, host, port, device, speed, sound }: LinkSettings): string {
  switch (kind) {
    case 'network':
      return `${host}:${port}`;
    case 'serial':
      return `${device}, ${speed} Bd`;
    case 'page-serial':
      return `serial port at a browser, ${speed} Bd`;
    case 'page-bluetooth':
      return 'Bluetooth LE at a browser';
    case 'page-sound':
      return `sound card at a browser, ${keyingWords(sound)}`;
    case 'sound-card':
      return `${sound?.input ?? 'sound card'}, ${keyingWords(sound)}`;
  }
}

function keyingWords(sound: SoundSetup | undefined): string {
  switch (sound?.keying) {
    case 'vox':
      return 'keyed by its sound (VOX)';
    case 'tone':
      return `keyed by a tone of ${sound.toneHz} Hz`;
    case 'line':
      return `keyed by ${sound.keyLine} of ${sound.keyDevice}`;
    case 'pin':
      return `keyed by pin ${sound.keyPin} of ${sound.keyDevice}`;
    default:
      return 'receive only';
  }
}
