import type { Plugin } from 'vite';

/** Fonts every page is written in; letters of other scripts are fetched once a page has some. */
const FONTS = /-latin-wght-normal-[^/]*\.woff2$/;

/**
 * Has the browser fetch a page's fonts beside its script. Found in the style sheet they come after the
 * first lines are on the screen, and every line moves when they do.
 */
export function earlyFonts(): Plugin {
  return {
    name: 'early-fonts',
    apply: 'build',
    transformIndexHtml: {
      order: 'post',
      handler: (_page, { bundle = {} }) =>
        Object.keys(bundle)
          .filter((file) => FONTS.test(file))
          .map((file) => ({
            tag: 'link',
            attrs: {
              ...{ rel: 'preload', as: 'font', type: 'font/woff2' },
              ...{ crossorigin: true, href: `/${file}` },
            },
            injectTo: 'head' as const,
          })),
    },
  };
}
