/** Where nothing can be practised. */
export const PRACTICE_FAILURES = {
  'no-practice-world': {
    happened: 'There is no practice world here.',
    means: 'These are your real radios: no fault is put into them.',
    try: 'Start the practice world beside, from Drills; or practise on the made-up chain.',
  },
  'practice-world-away': {
    happened: 'The practice world does not answer.',
    means: 'Nothing was begun, and nothing is counted.',
    try: 'Try again in a few seconds; else stop the demo and start it anew.',
  },
  'practice-runs': {
    happened: 'Something else is practised now.',
    means: 'One thing is practised at a time; it was begun here or in another tab.',
    try: 'End it or leave it on Drills, then begin anew.',
  },
} as const;
