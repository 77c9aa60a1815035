import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { USUAL_ACTIVITIES, proposeActivities } from './index.ts';

const names = (words: string) => proposeActivities(words).map(({ name }) => name);

describe('activities proposed from what a customer says', () => {
  test.each([
    ['browser with fifty tabs', ['Browser, fifty tabs']],
    ['Browser, about 60 open tabs, and e-mail', ['Office and mail', 'Browser, fifty tabs']],
    ['internet, 8 tabs', ['Browser, a dozen tabs']],
    ['film editing', ['Video editing']],
    ['Edits videos of weddings; photos too', ['Photo editing', 'Video editing']],
    ['Letters, spreadsheets, VIDEO CALLS', ['Office and mail', 'Video calls']],
    ['drone mapping and CAD', ['Large drawings and assemblies', 'Mapping from aerial pictures']],
    ['scans maps for the archive', ['Scanning large formats']],
    ['two VMs and simulations', ['Numeric models', 'A virtual machine']],
    ['gaming, no video editing', ['Games']],
    ['office work, never games', ['Office and mail']],
    ['composing with sample libraries', ['Music with sample libraries']],
    ['hundreds of tabs', ['Browser, fifty tabs']],
    ['twenty tabs', ['Browser, a dozen tabs']],
    // Words that only begin like another.
    ['a cadet school, tabletop figures, webbing, mailbox painting', []],
    ['it hums', []],
    ['', []],
  ])('“%s”: %j', (words, expected) => {
    expect(names(words)).toEqual(expected);
  });

  test('an activity the shop named itself is found by the words of its name, in any order', () => {
    const own = { name: 'Tide tables and chart plotting', low: 2, high: 6 };
    const proposed = (words: string) => proposeActivities(words, [...USUAL_ACTIVITIES, own]);
    expect(proposed('Plotting the chart, tide tables, e-mail')).toEqual([USUAL_ACTIVITIES[0], own]);
    // Half a name is another thing, and so is what is denied.
    for (const words of ['tide tables', 'no tide tables and chart plotting', 'and'])
      expect(proposed(words)).not.toContain(own);
    // A list without an entry does not propose it.
    expect(proposeActivities('e-mail', [own])).toEqual([]);
    expect(proposeActivities('x', [{ name: 'and', low: 1, high: 2 }])).toEqual([]);
  });

  test('every usual activity is found by its own name, with the figures of the list', () => {
    for (const one of USUAL_ACTIVITIES) expect(proposeActivities(one.name)).toContain(one);
  });

  test('any two are both found in whatever case and order, never twice, never both browsers', () => {
    const one = fc.constantFrom(...USUAL_ACTIVITIES.map(({ name }) => name));
    fc.assert(
      fc.property(one, one, fc.boolean(), (first, second, isLoud) => {
        const text = `${first.replace(',', ' with')}; ${second.replace(',', ' with')}`;
        const found = names(isLoud ? text.toUpperCase() : text);
        expect(new Set(found).size).toBe(found.length);
        const browsers = found.filter((name) => name.startsWith('Browser'));
        expect(browsers.length).toBeLessThanOrEqual(1);
        for (const name of [first, second])
          if (!name.startsWith('Browser')) expect(found).toContain(name);
      }),
    );
  });

  test('any text is borne, and what is denied is not proposed', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(proposeActivities(text).length).toBeLessThanOrEqual(USUAL_ACTIVITIES.length);
      }),
    );
    for (const { name } of USUAL_ACTIVITIES)
      expect(names(`no ${name.replace(',', '')}`)).toEqual([]);
  });
});
