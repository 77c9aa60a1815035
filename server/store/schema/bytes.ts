import { customType } from 'drizzle-orm/pg-core';

/** Raw bytes. */
export const bytes = customType<{ data: Uint8Array; driverData: Uint8Array }>({
  dataType: () => 'bytea',
});
