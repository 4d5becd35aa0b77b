/** Who may have made a paper. */
export const makers = [
  { value: 'publisher', title: 'the publisher' },
  { value: 'other', title: 'another maker' },
] as const
