/** How every chart writes its numbers, and what it says under the pointer, in the inks of the present light. */
export const TICK = { fill: 'var(--ink2)', fontSize: 12 } as const;

export const TOOLTIP = {
  contentStyle: { background: 'var(--raise)', border: '1px solid var(--edge)', color: 'var(--ink)' },
  cursor: { fill: 'var(--line)' },
} as const;
