import { FILE_FAILURES } from './file-failures.js';
import { PRACTICE_FAILURES } from './practice-failures.js';

/** Every failure that an operator can meet: what happened, what it means on the bench, what to try. */
export interface FailureText {
  readonly happened: string;
  readonly means: string;
  readonly try: string;
}

export const FAILURES = {
  ...FILE_FAILURES,
  ...PRACTICE_FAILURES,
  refused: {
    happened: 'The far end refused the connection.',
    means: 'The host is there, but no program listens on that port.',
    try: 'Start the modem program, and compare the port on both sides: the one that the program shows is the one to enter here.',
  },
  'no-such-host': {
    happened: 'No host of that name was found.',
    means: 'The name is mistyped, or this machine is on another network.',
    try: 'Give the address in numbers, or 127.0.0.1 for a program on this machine.',
  },
  unreachable: {
    happened: 'No way leads to that address.',
    means: 'The network or the wireless hotspot of the far end is not joined.',
    try: 'Join its network, then open the link again.',
  },
  'no-such-device': {
    happened: 'There is no such port on this machine.',
    means: 'The cable is out, half seated, or the adapter got another name.',
    try: 'Push the plug home and choose the port from the list again.',
  },
  permission: {
    happened: 'This machine does not allow the port to be opened.',
    means: 'The user that runs Mistpeak may not use serial ports.',
    try: 'Add that user to the group that owns the port (often dialout), log in again and start again.',
  },
  busy: {
    happened: 'The port is in use.',
    means: 'Another program holds the TNC, perhaps in the background: only one can have it.',
    try: 'Close the other program, also where it only sleeps.',
  },
  unplugged: {
    happened: 'The port went away while it was open.',
    means: 'The plug was pulled or the device lost power.',
    try: 'Seat the plug and check the power; the link opens by itself when the port is back.',
  },
  'closed-by-peer': {
    happened: 'The far end closed the connection.',
    means: 'The modem program ended, or it serves one client only and took another.',
    try: 'Look at the far end; the link is tried again by itself.',
  },
  'timed-out': {
    happened: 'Nothing answered in time.',
    means: 'The address is silent or a Bluetooth port waits for its device.',
    try: 'Switch the device on, bring it near, check the address.',
  },
  'not-a-serial-port': {
    happened: 'This is not a serial port, or it does not take the settings.',
    means: 'The path leads to something else, or the speed is not one of its speeds.',
    try: 'Choose a port from the list and a usual speed, as 9600.',
  },
  'page-away': {
    happened: 'No page lends its device.',
    means: 'The TNC is at a browser; its page is closed, asleep, or has not been given the device yet.',
    try: 'Open this page in that browser, choose the device there, and keep the screen on.',
  },
  'no-such-sound': {
    happened: 'There is no such sound card.',
    means: 'It is not plugged in, or it is listed by another name now.',
    try: 'Plug it in and choose it from the list again; the link opens by itself when it is back.',
  },
  'no-sound': {
    happened: 'The sound card gives no sound.',
    means: 'It was found, and did not begin: the system says why below.',
    try: 'Try the list for another name of the same card; unplug it and plug it in again.',
  },
  'sound-busy': {
    happened: 'The sound card is in use.',
    means: 'Another program holds it: a modem program, a call, the sound of the desktop.',
    try: 'End that program, or release its set-up; only one can have the card.',
  },
  'sound-rate': {
    happened: 'The sound card does not take this sample rate.',
    means: 'It knows others, and nothing between converts them.',
    try: 'Choose 48000 or 44100, or the name that begins with plughw.',
  },
  'sound-gone': {
    happened: 'The sound card went away while it was open.',
    means: 'The plug was pulled, or the program that reads it was ended. The key was let go.',
    try: 'Seat the plug; the link opens by itself when the card is back.',
  },
  'sound-stuck': {
    happened: 'The sound card does not take what is to be sent.',
    means:
      'The machine or its disk stands still, and a packet with gaps is worth nothing. The key was let go.',
    try: 'End what loads the machine; the link is tried again by itself.',
  },
  'set-up-taken': {
    happened: 'Another link has this open already.',
    means: 'A sound card and a key belong to one set-up at a time: the link that has it is named below.',
    try: 'Close that link first, then open this one.',
  },
  'no-alsa': {
    happened: 'The programs that read sound cards are missing.',
    means: 'Mistpeak uses arecord and aplay of ALSA on this machine.',
    try: 'Install the package alsa-utils, then open the link again.',
  },
  'key-failed': {
    happened: 'The key of the radio cannot be set.',
    means:
      'The line or pin that keys it did not obey, so the link is not used: nobody would know whether it transmits.',
    try: 'Check the device and the line in the set-up, and whether another program holds it.',
  },
  'not-lent-here': {
    happened: 'This link takes no device of a page.',
    means: 'It leads over the network or to a port of the server machine.',
    try: 'Add a link whose kind is a device at a browser.',
  },
  'port-taken': {
    happened: 'The port is taken.',
    means: 'Another program on this machine listens there, so Mistpeak cannot.',
    try: 'Take another port, and enter the same one in the other programs.',
  },
  'network-not-confirmed': {
    happened: 'Sharing on the network was not switched on.',
    means: 'Every device on the network could then listen, and transmit where you allow it.',
    try: 'Confirm that you know who is on this network, or share on this machine only.',
  },
  replaying: {
    happened: 'A past hour is being replayed: nothing is sent or set.',
    means: 'This page lives in another time; nothing of it left the browser.',
    try: 'Press “Back to now”, and do it again.',
  },
  'mistpeak-stays': {
    happened: 'Mistpeak stays in the kit.',
    means: 'It is the program that you are looking at; a chain need not end in it.',
    try: 'Remove other things, or plan a chain that ends in another app.',
  },
  other: {
    happened: 'The link failed.',
    means: 'The system gave a reason that is not in our list; it is shown beside.',
    try: 'Read the reason, check the plug and the address, open again.',
  },
  'too-much': {
    happened: 'That was too much at once.',
    means: 'What was sent is larger, or nested deeper, than anything that belongs here; it was not read.',
    try: 'Send it in smaller parts.',
  },
  'field-refused': {
    happened: 'A field was not accepted.',
    means: 'What stands there cannot be right as it is.',
    try: 'Correct the marked field.',
  },
  'not-found': {
    happened: 'That is not here.',
    means: 'It was removed, or the address is wrong.',
    try: 'Go back and choose again.',
  },
  'clock-wrong': {
    happened: 'The computer’s clock is wrong.',
    means: 'The letter would bear that date. It is not posted; what you wrote stands here.',
    try: 'Decide at the top of the page which time is right, then post it again; or keep it as a draft.',
  },
  'changed-meanwhile': {
    happened: 'It was changed elsewhere meanwhile.',
    means:
      'Another window or device saved it after this form was opened. Nothing of yours is lost: it stands here.',
    try: 'Compare both, then keep yours or take the other.',
  },
  'given-up': {
    happened: 'The page had given this up.',
    means: 'It was asked while this machine stood still, and whoever asked has gone.',
    try: 'Ask again; it was not done.',
  },
  'database-away': {
    happened: 'The database does not answer.',
    means: 'Frames are heard and shown, and kept in memory until it is back; settings cannot be changed now.',
    try: 'Wait a moment; if it stays away, start Mistpeak again.',
  },
  'disk-full': {
    happened: 'There is no space left where the data lies.',
    means: 'Frames are heard and shown, and kept in memory; nothing can be stored or changed now.',
    try: 'Make room on that disk; what waits is then written by itself.',
  },
  'write-fails': {
    happened: 'The database does not take what is written.',
    means: 'Frames are heard and shown, and kept in memory; the reason is shown beside.',
    try: 'Start Mistpeak again; if it stays so, keep a copy of the data folder and begin anew with --fresh.',
  },
  'server-away': {
    happened: 'Mistpeak does not answer.',
    means:
      'The program on the machine was stopped or stands still, or the way to it is cut. What you asked may be done or not.',
    try: 'Start it again; this page comes back by itself. Asked again, nothing is done twice.',
  },
  'no-operator': {
    happened: 'No call sign has been entered.',
    means: 'Nothing may be sent without the call of the licence holder.',
    try: 'Enter your call sign first.',
  },
  'no-beacon': {
    happened: 'The beacon has not been set up.',
    means: 'There is nothing to send yet.',
    try: 'Fill in the beacon and save it.',
  },
  'internet-closed': {
    happened: 'The internet side takes nothing now.',
    means: 'There is no connection, its login is not verified, or sending is switched off there.',
    try: 'Look at the internet side: switch it on, log in verified and allow sending.',
  },
  'link-not-open': {
    happened: 'The link is not open.',
    means: 'There is no TNC to hand the frame to.',
    try: 'Open the link and wait until it is open.',
  },
  'not-armed': {
    happened: 'The transmitter is locked.',
    means: 'Mistpeak starts receive-only; nothing was sent.',
    try: 'Check antenna, frequency and call, then arm the transmitter.',
  },
  'session-stands': {
    happened: 'A session with that station stands already.',
    means: 'Two connections between the same two calls cannot be told apart on the air.',
    try: 'Go on in the one that stands, or end it first.',
  },
  'session-over': {
    happened: 'That session has ended.',
    means: 'Nothing can be said in it any more; what was said is kept.',
    try: 'Call the station again.',
  },
  'too-many-sessions': {
    happened: 'Twenty sessions stand already.',
    means: 'More would not get a turn on the channel.',
    try: 'End one of them first.',
  },
  'file-underway': {
    happened: 'A file is on its way in that session already.',
    means: 'Two transfers in one stream would be mixed up.',
    try: 'Wait until it is across, or give it up.',
  },
  'no-console': {
    happened: 'That link has no command prompt.',
    means:
      'Only a TNC on a serial port or a network port of this machine shows one; a sound card or a page’s device does not.',
    try: 'Choose the link of a TNC with a command prompt.',
  },
  'console-open': {
    happened: 'The command prompt of that TNC is open.',
    means: 'Its port can speak KISS, or show its command prompt, not both at once.',
    try: 'Close the prompt first; enter KISS there if the TNC is not in it.',
  },
  'link-open': {
    happened: 'The link is open.',
    means: 'Its port can speak KISS, or show its command prompt, not both at once.',
    try: 'Close the link first.',
  },
  'no-contact': {
    happened: 'That session was never connected.',
    means: 'There is no contact to log.',
    try: 'Save its transcript instead.',
  },
  'another-call-in-force': {
    happened: 'The transmitter is armed for another call already.',
    means:
      'It was armed in another window; what is sent from there would be refused once this call is in force.',
    try: 'Leave it as it is, or arm it for this call instead.',
  },
  'closed-meanwhile': {
    happened: 'The transmitter was locked meanwhile.',
    means: 'A closing came after this was begun, and wins over it; nothing was sent.',
    try: 'Look who locked it and why; then arm again and repeat what you did.',
  },
  'over-too-long': {
    happened: 'The frame is too long for this rate.',
    means: 'It would hold the channel for more than 30 s in one go; nothing was sent.',
    try: 'Shorten it, or use a faster rate.',
  },
  'too-much-waiting': {
    happened: 'Too much is waiting to be sent already.',
    means: 'The channel takes no more than its air time; this frame was not added.',
    try: 'Wait until some of it has gone out, or lock the transmitter to drop it all.',
  },
  'armed-for-another-call': {
    happened: 'The lock was armed for another call.',
    means: 'The frame carries a call that is not the one in force; nothing was sent.',
    try: 'Arm again with the call that the frame carries.',
  },
  'demo-call-on-a-real-link': {
    happened: 'A demo call was not sent.',
    means:
      'Calls beginning with Q belong to nobody; they may reach a stand-in only, and this link has not said that it is one.',
    try: 'Use the stand-in TNC of the demo, or enter your own call sign.',
  },
  'foreign-call': {
    happened: 'That call is not yours.',
    means: 'Only the licence holder’s call, with any SSID, may be sent from here.',
    try: 'Use your own call.',
  },
  'placeholder-call': {
    happened: 'A placeholder call was not sent.',
    means: 'Made-up calls on the air are not legal.',
    try: 'Enter the call on your licence.',
  },
  'held-elsewhere': {
    happened: 'Another Mistpeak process holds this link.',
    means: 'Two processes share one database; a link belongs to one of them.',
    try: 'Close it there, or work with it there.',
  },
  'foreign-page': {
    happened: 'The request came from another page.',
    means: 'A web page from elsewhere tried to reach Mistpeak; it was refused.',
    try: 'Open Mistpeak by the address that it printed.',
  },
  'login-needed': {
    happened: 'You are not logged in.',
    means: 'Mistpeak shows and does nothing before it knows who you are.',
    try: 'On its machine, type ./mistpeak address and open what it prints; elsewhere pair this device or log in.',
  },
  'wrong-password': {
    happened: 'That password is not known here.',
    means: 'It was mistyped, or the operator has changed it.',
    try: 'Type it again; ask the operator.',
  },
  'wrong-code': {
    happened: 'That code lets nobody in.',
    means: 'It was mistyped, is older than ten minutes, or has been used.',
    try: 'Let the operator make another in Settings.',
  },
  'not-on-the-network': {
    happened: 'Mistpeak is on this machine only.',
    means: 'It was started without --lan, so no other device can reach it.',
    try: 'Stop it, and start it again with ./mistpeak start --lan.',
  },
  'too-many-tries': {
    happened: 'Too many wrong passwords or codes.',
    means: 'Five were tried from here within a minute, or thirty in all; none is looked at now.',
    try: 'Wait a minute, then try again.',
  },
  'password-taken': {
    happened: 'That password is in use already.',
    means: 'Operator and watcher are told apart by their passwords alone.',
    try: 'Choose another.',
  },
  'watcher-cannot': {
    happened: 'A watcher changes and sends nothing.',
    means: 'This browser is logged in as a watcher; nothing was done.',
    try: 'Log in as the operator in Settings.',
  },
  'mail-is-private': {
    happened: 'The mail is not shown to watchers.',
    means: 'The operator has not allowed it.',
    try: 'Ask the operator; the choice is under Mail, Account.',
  },
  'mail-under-way': {
    happened: 'A mail session is under way already.',
    means: 'One at a time: two would offer the same messages.',
    try: 'Wait for its end, or stop it.',
  },
  'passphrase-wrong': {
    happened: 'That passphrase does not open the password.',
    means: 'Nothing was changed; the password stays locked.',
    try: 'Type it again, or give the password itself anew.',
  },
  'password-locked': {
    happened: 'The password of the mail account is locked.',
    means: 'Its key is your passphrase, which is kept nowhere.',
    try: 'Give the passphrase under Account, or the password for this session.',
  },
  'too-heavy': {
    happened: 'This letter takes longer than you have allowed.',
    means: 'On this way it would hold the channel for too many minutes.',
    try: 'Make its pictures smaller, leave a file out, or allow more minutes under Account.',
  },
  'card-in-use': {
    happened: 'Another set-up holds that sound card.',
    means: 'Two programs at one card disturb each other, and one of them hears nothing.',
    try: 'Close the link that uses the card, then start again.',
  },
  internal: {
    happened: 'Something went wrong inside Mistpeak.',
    means: 'This is a fault of ours; what was heard is kept.',
    try: 'Try again; the server’s output tells more.',
  },
} as const satisfies Record<string, FailureText>;

export type FailureReason = keyof typeof FAILURES;

export function failureText(reason: string): FailureText {
  return Object.hasOwn(FAILURES, reason) ? FAILURES[reason as FailureReason] : FAILURES.other;
}

/** An error answer, application/problem+json (RFC 9457) with our members. */
export interface Problem extends FailureText {
  readonly title: string;
  readonly status: number;
  readonly reason: string;
  readonly field?: string;
  readonly fields?: Readonly<Record<string, string>>;
}
