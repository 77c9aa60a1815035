import type { Access } from './access.ts';

const print = (path: string, access: Access = 'staff', general = false) => ({
  ...{ method: 'get', path, access, general },
});

/** What is printed, taken away or given in as a file, beside the table of routes; under /api. */
export const PRINTS = {
  live: print('/live', 'staff', true),
  openApi: print('/openapi.json', 'staff', true),
  measuringPage: print('/measuring-page.html', 'staff', true),
  jobTagSvg: print('/jobs/{id}/tag.svg'),
  jobTagPdf: print('/jobs/{id}/tag.pdf'),
  drawerTagSvg: print('/drawer/{id}/tag.svg'),
  drawerTagPdf: print('/drawer/{id}/tag.pdf'),
  shopLogo: print('/shop/logo', 'staff', true),
  stockLabels: print('/stock/labels.pdf'),
  coverSvg: print('/machines/{id}/cover.svg', 'staff', true),
  coverPdf: print('/machines/{id}/cover.pdf', 'staff', true),
  machinePhoto: print('/machines/{id}/photo', 'staff', true),
  evidencePhoto: print('/jobs/{id}/evidence/{evidenceId}/photo'),
  /** Trusted before anybody can sign in by it; it is no secret. */
  authority: print('/network/authority.pem', 'anyone', true),
  backup: print('/backup', 'owner'),
  /** As it is: a bench with its photos is far too large for a JSON body. */
  backupGiven: { ...print('/backups/given', 'owner'), method: 'post' },
  changesCsv: print('/changes.csv', 'owner'),
  customerData: print('/customers/{id}/data.json', 'owner'),
  bundle: print('/jobs/{id}/bundle', 'bench'),
  report: print('/jobs/{id}/report.pdf'),
  quotePdf: print('/jobs/{id}/quotes/{number}.pdf'),
} as const;

/** Part of an address of the table as a router takes it. */
export const routerParams = (path: string): string => path.replaceAll(/\{(\w+)\}/g, ':$1');
/** An address of the table as the server takes it. */
export const routerPath = (path: string): string => `/api${routerParams(path)}`;
