
import { uiFrame, encodeFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { AfskModulator, transmissionBits } from '@mistpeak/core/modem/modulator';
import { BELL_202 } from '@mistpeak/core/modem/tones';
import { SequenceDetector } from '@mistpeak/core/modem/sequence';
import { Decimator } from '@mistpeak/core/modem/band';
import { addNoise, meanPower, noiseDeviation } from '@mistpeak/core/modem/noise';
import { seededDice } from '@mistpeak/core/network/dice';
const N = Number(process.env.N ?? 30);
const dice = seededDice(5);
const info = () => String.fromCharCode(...Array.from({ length: 100 }, () => 33 + Math.floor(dice() * 90)));
for (const rate of (process.env.R ?? '11025').split(',').map(Number)) for (const eb of (process.env.E ?? '99,12,9,8,7').split(',').map(Number)) {
  const frames = Array.from({ length: N }, () => encodeFrame(uiFrame('QH4MPK', 'APZMPK', [], fromLatin1(info()))));
  const want = new Set(frames.map(toHex));
  const noise = seededDice(9); const dec = new Decimator(rate); const dm = new SequenceDetector(dec.rateHz, BELL_202);
  let got = 0, bad = 0, t = 0, dur = 0;
  const off = Number(process.env.OFF ?? 0), ppm = Number(process.env.PPM ?? 0);
  const tones = { baud: 1200 * (1 + ppm * 1e-6), markHz: 1200 + off, spaceHz: 2200 + off };
  for (const f of [...frames, frames[0]!]) { const p = new AfskModulator({ rateHz: rate, levelDbfs: -12, tones, twistDb: Number(process.env.TW ?? 0) }).push(transmissionBits([f], BELL_202, { txDelayMs: 150, txTailMs: 20 }));
    const s = new Float32Array(p.length + Math.round(rate / 10)); s.set(p);
    if (eb < 99) addNoise(s, noiseDeviation(meanPower(p), { ebN0Db: eb, baud: 1200, rateHz: rate }), noise);
    dur += s.length / rate; const t0 = performance.now(); const out = new Float32Array(s.length + 8); const c = dec.push(s, out);
    dm.push(out, c, (raw) => { if (want.has(toHex(raw))) got++; else bad++; }); t += performance.now() - t0; }
  console.log(rate, eb, got + '/' + N, bad, (dur * 1000 / t).toFixed(0) + 'x');
}
