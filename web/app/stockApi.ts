import type { DrawerRecord, GoneRecord } from '#contract/drawer';
import type { Routes } from '#contract/routes';
import { stockKeepingRoutes } from '#contract/stockKeeping';
import type {
  CountAnswer,
  CountRecord,
  GonePage,
  StockPage,
  StockValueAnswer,
} from '#contract/stockKeeping';
import { supplierRoutes } from '#contract/suppliers';
import type {
  AskedAnswer,
  PlacedAnswer,
  PlacedOrder,
  Receipt,
  SupplierRecord,
} from '#contract/suppliers';
import { api } from './api.ts';
import { addRoutes } from './baseQuery.ts';
import type { Body, In, Output } from './baseQuery.ts';

addRoutes({ ...stockKeepingRoutes, ...supplierRoutes });

type Paged<Name extends 'listStock' | 'listGone'> = Omit<
  In<Routes[Name]['query']>,
  'after' | 'limit'
>;
const pages = {
  initialPageParam: null,
  getNextPageParam: ({ next }: { readonly next: string | null }) => next ?? undefined,
};
const pageQuery = (queryArg: object, after: string | null) => ({
  ...Object.fromEntries(
    Object.entries(queryArg).filter(([, value]) => value !== undefined && value !== ''),
  ),
  ...(after === null ? {} : { after }),
});

/** What the pages of the stock ask of the server. */
export const stockApi = api.injectEndpoints({
  endpoints: (build) => {
    /** A change of one module in stock. */
    const pieceChange = <
      Name extends 'changeInDrawer' | 'letGo' | 'takeBack' | 'holdPiece',
      Result = DrawerRecord,
    >(
      route: Name,
    ) =>
      build.mutation<Result, { id: string; body: Body<Name> }>({
        query: ({ id, body }) => ({ route, params: { id }, body }),
        invalidatesTags: ['drawer'],
      });
    return {
      stock: build.infiniteQuery<StockPage, Paged<'listStock'>, string | null>({
        query: ({ queryArg, pageParam }) => ({
          route: 'listStock',
          query: pageQuery(queryArg, pageParam),
        }),
        infiniteQueryOptions: pages,
        providesTags: ['drawer'],
        keepUnusedDataFor: 5,
      }),
      gone: build.infiniteQuery<GonePage, Paged<'listGone'>, string | null>({
        query: ({ queryArg, pageParam }) => ({
          route: 'listGone',
          query: pageQuery(queryArg, pageParam),
        }),
        infiniteQueryOptions: pages,
        providesTags: ['drawer'],
        keepUnusedDataFor: 5,
      }),
      piece: build.query<DrawerRecord, string>({
        query: (id) => ({ route: 'readPiece', params: { id } }),
        providesTags: ['drawer'],
      }),
      stockValue: build.query<StockValueAnswer, void>({
        query: () => ({ route: 'readStockValue' }),
        providesTags: ['drawer'],
      }),
      addToDrawer: build.mutation<DrawerRecord, Body<'addToDrawer'>>({
        query: (body) => ({ route: 'addToDrawer', body }),
        invalidatesTags: ['drawer'],
      }),
      changeInDrawer: pieceChange('changeInDrawer'),
      letGo: pieceChange<'letGo', GoneRecord>('letGo'),
      takeBack: pieceChange('takeBack'),
      holdPiece: pieceChange('holdPiece'),
      compareCount: build.mutation<CountAnswer, Body<'compareCount'>>({
        query: (body) => ({ route: 'compareCount', body }),
      }),
      takeCount: build.mutation<CountRecord, Body<'takeCount'>>({
        query: (body) => ({ route: 'takeCount', body }),
        invalidatesTags: ['drawer'],
      }),
      counts: build.query<CountRecord[], void>({
        query: () => ({ route: 'listCounts' }),
        providesTags: ['drawer'],
      }),
      suppliers: build.query<SupplierRecord[], void>({
        query: () => ({ route: 'listSuppliers' }),
        providesTags: ['suppliers'],
      }),
      addSupplier: build.mutation<SupplierRecord[], Body<'addSupplier'>>({
        query: (body) => ({ route: 'addSupplier', body }),
        invalidatesTags: ['suppliers'],
      }),
      changeSupplier: build.mutation<
        SupplierRecord[],
        { id: string; body: Body<'changeSupplier'> }
      >({
        query: ({ id, body }) => ({ route: 'changeSupplier', params: { id }, body }),
        invalidatesTags: ['suppliers', 'modules', 'orders'],
      }),
      takePriceList: build.mutation<
        Output<'takePriceList'>,
        { id: string; body: Body<'takePriceList'> }
      >({
        query: ({ id, body }) => ({ route: 'takePriceList', params: { id }, body }),
        invalidatesTags: ['suppliers', 'modules'],
      }),
      askSupplier: build.mutation<AskedAnswer, string>({
        query: (id) => ({ route: 'askSupplier', params: { id }, body: {} }),
        invalidatesTags: ['suppliers', 'modules', 'orders'],
      }),
      placedOrders: build.query<PlacedOrder[], void>({
        query: () => ({ route: 'listPlacedOrders' }),
        providesTags: ['orders'],
      }),
      placeOrder: build.mutation<PlacedAnswer, Body<'placeOrder'>>({
        query: (body) => ({ route: 'placeOrder', body }),
        invalidatesTags: ['orders', 'job', 'modules'],
      }),
      receiveOrder: build.mutation<Receipt, { id: string; body: Body<'receiveOrder'> }>({
        query: ({ id, body }) => ({ route: 'receiveOrder', params: { id }, body }),
        invalidatesTags: ['orders', 'drawer', 'job'],
      }),
      cancelOrderLines: build.mutation<PlacedOrder, { id: string; body: Body<'cancelOrderLines'> }>(
        {
          query: ({ id, body }) => ({ route: 'cancelOrderLines', params: { id }, body }),
          invalidatesTags: ['orders', 'job'],
        },
      ),
    };
  },
});
