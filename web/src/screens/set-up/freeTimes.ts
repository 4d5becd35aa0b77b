/** Weeks to begin with, as they would be typed. */
export const freeTimes: readonly { title: string; text: string }[] = [
  { title: 'Evenings', text: 'Mon-Fri 19:00-21:00' },
  { title: 'Evenings and Saturday morning', text: 'Mon-Thu 19:00-21:00\nSat 09:00-12:00' },
  { title: 'Before work', text: 'Mon-Fri 06:30-07:45' },
  { title: 'Weekends', text: 'Sat, Sun 09:00-12:00, 14:00-16:00' },
  { title: 'Whole days', text: 'Mon-Fri 09:00-12:00, 14:00-17:00' },
]
