/** Names in the order people look for them: capitals, accents and figures as one reads and counts them – Shelf 9 before shelf 10. */
export const compareNames: (a: string, b: string) => number = new Intl.Collator('en', {
  ...{ numeric: true, sensitivity: 'base' },
}).compare;
