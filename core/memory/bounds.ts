/**
 * What a module's figures lie within. Readers drop what lies outside and say so; the contract refuses
 * it. Far beyond anything built, so that a slip is caught and nothing real is.
 */
export const MODULE_BOUNDS = {
  /** GiB; also of machines and their limits. */
  capacity: 16_384,
  ranks: 8,
  /** Clocks of CL, tRCD and tRP. */
  cycles: 200,
  /** Clocks of tRAS. */
  rasCycles: 400,
  /** ps of any of these. */
  timePs: 1_000_000,
  supportedCls: 64,
  millivolts: { min: 500, max: 3000 },
  /** Characters of maker, part number and pack. */
  text: 60,
} as const;
