import { create } from 'zustand';

/** While a past hour passes again nothing is sent or set from this page, and what happens now is not drawn into it. */
export const useReplaying = create<{ readonly isOn: boolean }>(() => ({ isOn: false }));
