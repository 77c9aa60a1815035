import { request } from 'node:http';
import type { OutgoingHttpHeaders } from 'node:http';

interface Asked {
  readonly headers?: OutgoingHttpHeaders;
  readonly method?: string;
  readonly body?: string;
  /** The address of this machine it is asked from, such as 127.0.0.9: each has an allowance of its own. */
  readonly from?: string | undefined;
}

/** A request as a browser would not let a script send it. */
export function askRaw(
  port: number,
  path: string,
  { headers = {}, method = 'GET', body = '', from }: Asked,
): Promise<{ status: number; type: string; body: Record<string, unknown> }> {
  return new Promise((settle, reject) => {
    const asked = request(
      {
        ...{ host: '127.0.0.1', port, path, method },
        headers: { host: `127.0.0.1:${port}`, ...headers },
        ...(from === undefined ? {} : { localAddress: from }),
      },
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
