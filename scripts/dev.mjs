// The server from source, restarted on change, and the interface with hot reload.
import { spawn } from 'node:child_process';

const port = Number(process.env.TEMBRIX_PORT ?? 4870);
console.log(`Interface at http://127.0.0.1:${port + 1}, API at http://127.0.0.1:${port}/api`);
const pages = ['127.0.0.1', 'localhost'].map((name) => `http://${name}:${port + 1}`);
const env = { ...process.env, TEMBRIX_ADDRESSES: pages.join(',') };
const npx = (args) =>
  spawn('npx', args, { stdio: 'inherit', shell: process.platform === 'win32', env });
const children = [npx(['tsx', 'watch', 'server/main.ts']), npx(['vite', '--clearScreen', 'false'])];
const stop = () => children.forEach((child) => child.kill());
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
for (const child of children) child.on('exit', stop);
