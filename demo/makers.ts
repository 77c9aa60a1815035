/** The shop's maker register: invented names for codes nobody holds. */
export const MAKERS: Readonly<Record<string, string>> = {
  '121-4A': 'Orlvane',
  '121-C8': 'Pavrik',
  '122-13': 'Kelbrith',
  '122-8A': 'Tivarn',
  '123-52': 'Quolmar',
};
