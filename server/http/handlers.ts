import { explainFinding, explainPoint, slotNames } from '#core/explaining';
import { readLabel } from '#core/memory';
import { operatingPoint } from '#core/operating-point';
import { previewRestore, restoreHere } from '../backup/restoreHere.ts';
import { putJobBundle } from '../backup/jobBundle.ts';
import type { BackupKeeper } from '../backup/keeper.ts';
import type { ShopLine } from '../net/shopLine.ts';
import type { LiveHub } from '../live/hub.ts';
import type { LanDoor } from '../door/lanDoor.ts';
import type { Database, Write } from '../store/openStore.ts';
import { StateError } from '../store/operations/errors.ts';
import * as audit from '../store/operations/audit.ts';
import * as change from '../store/operations/changeJobs.ts';
import * as evidence from '../store/operations/evidence.ts';
import * as catalogue from '../store/operations/catalogue.ts';
import * as bench from '../store/operations/bench.ts';
import * as customerData from '../store/operations/customerData.ts';
import * as covers from '../store/operations/covers.ts';
import * as faults from '../store/operations/faults.ts';
import * as drawer from '../store/operations/drawer.ts';
import { leaveOut, readLedger, readShares } from '../store/operations/ledger.ts';
import { openJob } from '../store/operations/openJobs.ts';
import * as library from '../store/operations/library.ts';
import { readMonth } from '../store/operations/month.ts';
import * as logo from '../store/operations/logo.ts';
import * as measuring from '../store/operations/measuring.ts';
import * as practice from '../store/operations/practice.ts';
import * as orders from '../store/operations/orders.ts';
import * as quotes from '../store/operations/quotes.ts';
import * as stock from '../store/operations/stock.ts';
import * as suppliers from '../store/operations/suppliers.ts';
import * as tickets from '../store/operations/tickets.ts';
import * as wanted from '../store/operations/wanted.ts';
import { listJobs } from '../store/operations/listJobs.ts';
import { listBatch, readJob } from '../store/operations/readJobs.ts';
import * as buying from '../suppliers/buying.ts';
import * as accounts from '../access/accounts.ts';
import * as signIn from '../access/signIn.ts';
import { actorOf } from '../access/visit.ts';
import type { Visit } from '../access/visit.ts';
import type { Handlers } from './mount.ts';
import { readAside } from '../reading/readAside.ts';
import { searchPlans } from './searchPlans.ts';

/** What handlers need beside a database. */
export interface HandlerParts {
  /** For what waits for others between its reads and its writes. */
  readonly write: Write;
  readonly door: LanDoor;
  readonly backups: BackupKeeper;
  readonly line: ShopLine;
  readonly live: LiveHub;
  readonly isDemo: boolean;
  /** Where else than on loopback the bench is reached; the first is where codes lead. */
  readonly addresses: readonly URL[];
}

/** The API over a database: each handler calls one operation. */
export function createHandlers(
  db: Database,
  { write, door, backups, line, live, isDemo, addresses }: HandlerParts,
  visit: Visit,
): Handlers {
  /** What somebody did is signed with whose session it is. */
  const by = visit.actor?.name ?? '';
  const signed = <T>(input: T) => ({ ...input, by });
  const buyer: buying.Buyer = {
    db,
    write: (run) => write(run, { who: by }),
  };
  return {
    health: () => Promise.resolve({ ok: true, isDemo }),
    readSession: () => signIn.readSession(db, visit),
    setUp: ({ body }) => signIn.setUp(db, visit, body),
    signIn: ({ body }) => signIn.signIn(db, visit, body),
    takeOver: ({ body }) => signIn.takeOver(db, visit, body),
    joinJob: ({ body }) => signIn.joinJob(db, visit, body.token),
    signOut: () => signIn.signOut(db, visit),
    holdBench: () => signIn.holdBench(db, visit),
    setPin: ({ body }) => signIn.setPin(db, visit, body.pin),
    listSessions: () => accounts.listSessions(db, actorOf(visit)),
    endSession: ({ params }) => accounts.endSession(db, actorOf(visit), params.id),
    changePassword: ({ body }) => accounts.changePassword(db, visit, body),
    letTabletIn: async ({ params }) => {
      const { token, expiresAt } = await signIn.makeTabletLink(db, actorOf(visit), params.id);
      const [at] = addresses;
      return {
        address: at ? `${at.origin}/jobs/${params.id}/fit#tablet=${token}` : null,
        expiresAt,
      };
    },
    sayHere: async ({ body }) => {
      await live.say(body, by);
      return { ok: true };
    },
    readNetwork: () => line.read(),
    changeNetwork: ({ body }) => line.change(body.terms, body.version),
    listChanges: ({ query }) => audit.listChanges(db, query),
    listJobChanges: ({ params, query }) => audit.listChanges(db, query, params.id),
    listBackups: () => Promise.resolve(backups.list()),
    previewRestore: ({ body }) => previewRestore(db, backups, body.name),
    restoreBackup: async ({ body }) => {
      const done = await restoreHere(db, write, backups, body.name);
      // Everything every screen shows is old now.
      await live.sayAllChanged();
      return done;
    },
    listHeldCustomers: ({ query }) => customerData.listHeldCustomers(db, query.search),
    eraseCustomer: ({ params, body }) =>
      customerData.eraseCustomer(db, params.id, body.name, (since) =>
        backups.list().flatMap(({ name, at }) => (Date.parse(at) >= since.getTime() ? name : [])),
      ),
    readMonth: ({ params }) => readMonth(db, params.month),
    listAccounts: () => accounts.listAccounts(db),
    addAccount: ({ body }) => accounts.addAccount(db, body),
    changeAccount: ({ params, body }) =>
      accounts.changeAccount(db, actorOf(visit), params.id, body),
    setPassword: ({ params, body }) => accounts.setPassword(db, params.id, body.password),
    listExercises: () => practice.listExercises(db),
    readExercise: ({ params }) => practice.readExercise(db, params.id),
    importExercise: ({ body }) => practice.importExercise(db, body),
    exerciseFromJob: ({ params }) => practice.makeFromJob(db, params.id),
    changeExercise: ({ params, body }) => practice.changeExercise(db, params.id, body),
    removeExercise: ({ params }) => practice.removeExercise(db, params.id),
    listPracticeRuns: ({ query }) =>
      practice.listPracticeRuns(
        db,
        visit.actor?.role === 'owner' && query.by !== '' ? query.by : by,
      ),
    recordPracticeRun: ({ body }) => practice.recordPracticeRun(db, signed(body)),
    listJobs: ({ query }) => listJobs(db, query),
    createJob: ({ body }) => openJob(db, signed(body)),
    importJob: ({ body }) => putJobBundle(db, Buffer.from(body.base64, 'base64')),
    readJob: ({ params }) => readJob(db, params.id),
    changeJob: ({ params, body }) => change.changeJob(db, params.id, body),
    saveSnapshot: ({ params, body }) =>
      change.saveSnapshot(db, params.id, params.kind, signed(body)),
    addMeasurement: ({ params, body }) => change.addMeasurement(db, params.id, body),
    changeMeasurement: ({ params, body }) =>
      change.changeMeasurement(db, params.id, params.measurementId, body),
    removeMeasurement: ({ params }) =>
      change.removeMeasurement(db, params.id, params.measurementId),
    closeJob: ({ params, body }) => change.closeJob(db, params.id, body.version),
    reopenJob: ({ params, body }) => change.reopenJob(db, params.id, body.version),
    readBench: ({ params }) => bench.readBench(db, params.id),
    addBenchNote: ({ params, body }) => bench.addBenchNote(db, params.id, signed(body)),
    addMemoryTest: ({ params, body }) => faults.addMemoryTest(db, params.id, signed(body)),
    removeMemoryTest: ({ params }) => faults.removeMemoryTest(db, params.id, params.testId),
    addReturn: ({ params, body }) => faults.addReturn(db, params.id, signed(body)),
    listReturns: () => faults.listReturns(db),
    changeReturn: ({ params, body }) => faults.changeReturn(db, params.id, body),
    makeTicket: ({ params, body }) => tickets.makeTicket(db, params.id, signed(body), door.url),
    listTickets: ({ params }) => tickets.listTickets(db, params.id),
    withdrawTicket: ({ params }) => tickets.withdrawTicket(db, params.id, params.ticketId),
    addCarried: ({ params, body }) => measuring.addCarried(db, params.id, signed(body)),
    simulateResult: ({ params, body }) => {
      if (!isDemo)
        throw new StateError(
          'Machines are simulated in the made-up world only.',
          'Measure the real one.',
        );
      return measuring.simulateResult(db, params.id, signed(body));
    },
    listResults: ({ params }) => measuring.listResults(db, params.id),
    readBackups: () => Promise.resolve(backups.read()),
    makeBackup: () => Promise.resolve().then(() => backups.makeNow()),
    readLedger: ({ query }) => readLedger(db, query),
    readShares: () => readShares(db),
    leaveOut: async ({ params, body }) => {
      await leaveOut(db, params.id, body.isLeftOut);
      return readShares(db);
    },
    readDoor: () => door.read(),
    changeDoor: ({ body }) => door.change(body.terms, body.version),
    readEvidence: ({ params }) => evidence.readEvidence(db, params.id),
    readEvidenceContent: ({ params }) =>
      evidence.readEvidenceContent(db, params.id, params.evidenceId),
    addEvidence: ({ params, body }) =>
      evidence.addEvidence(db, params.id, body.documents.map(signed)),
    placeEvidence: ({ params, body }) =>
      evidence.placeEvidence(db, params.id, params.evidenceId, signed(body)),
    decideEvidence: ({ params, body }) =>
      evidence.decideEvidence(db, params.id, body.decisions.map(signed)),
    listMakers: () => library.listMakers(db),
    nameMaker: ({ params, body }) => library.nameMaker(db, params.key, body.name),
    forgetMaker: ({ params }) => library.forgetMaker(db, params.key),
    listCustomers: ({ query }) => library.listCustomers(db, query.search),
    listMachines: ({ query }) => library.listMachines(db, query),
    createMachine: ({ body }) => library.createMachine(db, body.machine),
    readMachine: ({ params }) => library.readMachine(db, params.id),
    changeMachine: ({ params, body }) => library.changeMachine(db, params.id, body),
    saveCover: ({ params, body }) => covers.saveCover(db, params.id, body),
    savePhoto: ({ params, body }) => covers.savePhoto(db, params.id, body.base64),
    removePhoto: ({ params }) => covers.removePhoto(db, params.id),
    rememberLocator: ({ params, body }) => library.rememberLocator(db, params.id, body),
    listModules: ({ query }) => catalogue.listModules(db, query.search),
    createModule: ({ body }) => catalogue.createModule(db, body),
    changeModule: ({ params, body }) => catalogue.changeModule(db, params.id, body),
    removeModule: ({ params }) => catalogue.removeModule(db, params.id),
    importModules: ({ body }) => catalogue.importModules(db, body.modules),
    listDrawer: ({ query: { generations } }) =>
      drawer.listDrawer(db, generations === '' ? undefined : generations.split(',')),
    addToDrawer: ({ body }) => drawer.addToDrawer(db, body),
    changeInDrawer: ({ params, body }) => drawer.changeInDrawer(db, params.id, body),
    readPiece: ({ params }) => drawer.readPiece(db, params.id),
    listStock: ({ query }) => stock.listStock(db, query),
    readStockValue: () => stock.readStockValue(db),
    listGone: ({ query }) => stock.listGone(db, query),
    letGo: ({ params, body }) => stock.letGo(db, params.id, body),
    takeBack: ({ params, body }) => stock.takeBack(db, params.id, body.version),
    holdPiece: ({ params, body }) => stock.holdPiece(db, params.id, body),
    compareCount: ({ body }) => stock.compareCount(db, body),
    takeCount: ({ body }) => stock.takeCount(db, signed(body)),
    listCounts: () => stock.listCounts(db),
    listSuppliers: () => suppliers.listSuppliers(db),
    addSupplier: ({ body }) => suppliers.addSupplier(db, body),
    changeSupplier: ({ params, body }) => suppliers.changeSupplier(db, params.id, body),
    takePriceList: ({ params, body }) => suppliers.takePriceList(db, params.id, body),
    askSupplier: ({ params }) => buying.askSupplier(buyer, params.id),
    placeOrder: ({ body }) => buying.placeOrder(buyer, signed(body)),
    listPlacedOrders: () => orders.listPlacedOrders(db),
    receiveOrder: ({ params, body }) => orders.receiveOrder(db, params.id, body),
    cancelOrderLines: ({ params, body }) => orders.cancelOrderLines(db, params.id, body.lineIds),
    readShop: () => drawer.readShop(db),
    saveLogo: ({ body }) => logo.saveLogo(db, body.base64),
    removeLogo: () => logo.removeLogo(db),
    changeShop: ({ body }) => drawer.changeShop(db, body),
    listQuotes: ({ params }) => quotes.listQuotes(db, params.id),
    issueQuote: ({ params, body }) => quotes.issueQuote(db, params.id, body),
    answerQuote: ({ params, body }) => quotes.answerQuote(db, params.id, params.quoteId, body),
    listOrders: () => wanted.listOrders(db),
    listBatch: ({ params }) => listBatch(db, params.id),
    searchPlans: ({ body }) => searchPlans(body),
    operatingPoint: ({ body }) => {
      const point = operatingPoint(body.machine, body.placement, body.setting);
      // As JSON: the schema of the answer is plain, without the core's branded and readonly types.
      const plain = JSON.parse(JSON.stringify(point)) as never;
      const explanations = explainPoint(point, slotNames(body.machine));
      return Promise.resolve({ point: plain, explanations });
    },
    readInventory: ({ body }) => readAside(body.files),
    readLabel: ({ body }) => {
      const { module, count, understood, findings } = readLabel(body.text);
      return Promise.resolve({
        ...{ module, count, understood: [...understood] },
        findings: findings.map((finding) => ({
          ...explainFinding(finding),
          type: finding.type,
          severity: finding.severity,
        })),
      });
    },
  };
}
