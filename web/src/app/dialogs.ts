import { create } from 'zustand';

/** Which dialogs are open. */
export const useDialogs = create<{ search: boolean; keys: boolean }>(() => ({ search: false, keys: false }));
