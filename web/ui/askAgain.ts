interface Asked {
  readonly data?: unknown;
  readonly refetch: () => unknown;
}

/** Asks again for what did not come, where something shown needs several answers. */
export function askAgain(...all: readonly Asked[]): void {
  for (const { data, refetch } of all) if (data === undefined) void refetch();
}
