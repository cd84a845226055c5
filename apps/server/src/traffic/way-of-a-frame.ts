/**
 * The way of a frame through the server, in this order. A subject takes its place by name; what is not listed here hears of
 * no frame.
 */
export const WAY_OF_A_FRAME = [
  'record', // kept and shown
  'channel', // how much of the air it held
  'proof', // which rung of the climb it lights
  'stations', // who is where
  'echo', // one of ours come back
  'mail channel', // when the channel was last heard, and how well a gateway
  'sessions', // of a connection of ours, or a call
  'heard counts', // how often whom
  'messages', // what it says to us, and what it acknowledges
  'watch', // one of those who are looked after
  'own objects', // whether another tells them now
  'gate', // between radio and the internet
  'fill-in', // repeated for stations near
  'sharing', // to other programs at this TNC
] as const;
export type Place = (typeof WAY_OF_A_FRAME)[number];
