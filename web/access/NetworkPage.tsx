import type { Network } from '#contract/network';
import { longDay } from '#core/explaining';
import { networkApi } from '../app/networkApi.ts';
import { ListenForm } from '../ui/ListenForm.tsx';
import { Page } from '../ui/Page.tsx';
import { Failed, Loading } from '../ui/States.tsx';
import { useSave } from '../ui/useSave.ts';

/** Where tablets and other computers reach the bench, and how they come to trust it. */
export function NetworkPage() {
  const { data, error, refetch } = networkApi.useNetworkQuery();
  return (
    <Page title="Network" isNarrow>
      {data ? (
        <div className="grid gap-4">
          <Line key={data.version} network={data} />
          <Trust network={data} />
        </div>
      ) : error ? (
        <Failed failure={error} what="the network" onRetry={() => void refetch()} />
      ) : (
        <Loading what="the network" />
      )}
    </Page>
  );
}

function Line({ network }: { readonly network: Network }) {
  const { version, ...standing } = network;
  const [change] = networkApi.useChangeNetworkMutation();
  const saving = useSave(change);
  return (
    <section className="sheet grid gap-3" aria-label="Other devices">
      <h2 className="font-bold">Other devices</h2>
      <p>
        Tablets and computers on the shop’s network reach the bench here: encrypted, and only after
        signing in. On this computer itself it is always open.
      </p>
      <ListenForm
        {...standing}
        hint="One the router always gives it: a tablet keeps the address."
        state={saving.state}
        onSave={(terms) => void saving.save({ terms, version })}
      />
    </section>
  );
}

/** How a device comes to trust the shop’s certificate, once. */
function Trust({ network: { certificate, url } }: { readonly network: Network }) {
  return (
    <section className="sheet grid gap-3" aria-label="How a tablet comes to trust it">
      <h2 className="font-bold">How a tablet comes to trust it</h2>
      {certificate === null ? (
        <p className="text-muted">
          The shop makes a certificate of its own when the bench is first opened to other devices.
        </p>
      ) : (
        <>
          <ol className="grid list-decimal gap-2 pl-5">
            <li>
              On the tablet, open{' '}
              <b className="figure break-all">
                {url ?? 'the address above'}/api/network/authority.pem
              </b>
              , and go on past the warning this once: nothing secret is sent. Or bring the file:{' '}
              <a className="link" href="/api/network/authority.pem">
                certificate of this shop
              </a>
              .
            </li>
            <li>
              Compare the digits the tablet shows with these, SHA-256:{' '}
              <span className="figure text-aside break-all">{certificate.fingerprint}</span>
            </li>
            <li>
              Have the device trust the file as a certificate authority: its settings have a place
              for that, found by searching them for “certificate”. Some ask to switch the trust on
              in a second place.
            </li>
          </ol>
          <p className="text-muted">
            The address’s own certificate is good until {longDay(certificate.validUntil)} and
            renewed by itself at a start in its last month; devices go on trusting. A shop with a
            certificate of its own puts a proxy before the bench instead: docs/operating.md.
          </p>
        </>
      )}
    </section>
  );
}
