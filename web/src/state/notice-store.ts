import { create } from 'zustand';

export interface Notice {
  id: number;
  text: string;
  wrong: boolean;
}

interface Notices {
  notices: Notice[];
  dismiss(id: number): void;
}

/** Short sentences at the edge of the page; they go by themselves. */
export const useNotices = create<Notices>((set) => ({
  notices: [],
  dismiss: (id) => set(({ notices }) => ({ notices: notices.filter((notice) => notice.id !== id) })),
}));

let next = 1;

/** Says something to the user for a few seconds; a fault stays longer. */
export function notify(text: string, wrong = false): void {
  const notice = { id: next++, text, wrong };
  useNotices.setState(({ notices }) => ({
    notices: [...notices.filter((other) => other.text !== text).slice(-3), notice],
  }));
  setTimeout(() => useNotices.getState().dismiss(notice.id), wrong ? 12_000 : 5000);
}
