import { QUAY, QUAY_KEY, quaySupplier } from './quay.ts';
import { startSupplier } from './supplier.ts';

const { TEMBRIX_SUPPLIER_PORT = '4790' } = process.env;

const { url, stop } = await startSupplier(quaySupplier(), Number(TEMBRIX_SUPPLIER_PORT));
console.log(`${QUAY}, a made-up supplier, answers at ${url}; its key is “${QUAY_KEY}”.`);
console.log(`${url}/openapi.json describes it. Stop it with Ctrl C.`);
process.once('SIGINT', () => void stop());
process.once('SIGTERM', () => void stop());
