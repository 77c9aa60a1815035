import { request } from 'node:http';
import type { OutgoingHttpHeaders } from 'node:http';

/** A request with headers a browser would not let a script set. */
export function askRaw(
  port: number,
  path: string,
  headers: OutgoingHttpHeaders,
  method = 'GET',
  body = '',
): Promise<{ status: number; type: string; body: Record<string, unknown> }> {
  return new Promise((settle, reject) => {
    const asked = request(
      { host: '127.0.0.1', port, path, method, headers: { host: `127.0.0.1:${port}`, ...headers } },
      (response) => {
        let text = '';
        response.setEncoding('utf8').on('data', (chunk: string) => (text += chunk));
        response.on('end', () =>
          settle({
            status: response.statusCode ?? 0,
            type: response.headers['content-type'] ?? '',
            body: JSON.parse(text || '{}') as Record<string, unknown>,
          }),
        );
      },
    );
    asked.on('error', reject);
    asked.end(body);
  });
}
