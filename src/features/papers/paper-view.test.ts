import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { type Block, type Paper, paperOf, receiptOf, textsOf } from '@/core/papers';
import { readRecord, type TestRecord } from '@/core/record';
import { PaperView } from './paper-view';

/* The paper as a page of the browser: it says all that its blocks say, in their order, and whoever hears it can find their way. */

const folder = join(import.meta.dirname, '../../../docs/examples');
const examples = readdirSync(folder).map((file) => {
  const read = readRecord(JSON.parse(readFileSync(join(folder, file), 'utf8')));
  if (!read.ok) throw new Error(read.problem.message);
  return [file.replace('.json', ''), read.value] as const;
});

const page = (paper: Paper, picture: (hash: string) => string | undefined = () => undefined): string =>
  renderToStaticMarkup(createElement(PaperView, { paper, picture }));

/** What is read off a page: attributes that stand for a picture too, tags left out, entities as the letters that they are. */
const heard = (html: string): string =>
  html
    .replace(/<[^>]*?(?:aria-label|alt)="([^"]*)"[^>]*>/g, ' $1 ')
    .replace(/<[^>]+>/g, ' ')
    .replace(/&#x27;/g, '’')
    .replaceAll('&amp;', '&')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&quot;', '"')
    .replace(/\s+/g, ' ');
const plain = (text: string): string => text.replaceAll("'", '’').replace(/\s+/g, ' ').trim();

const of = <K extends Block['kind']>({ blocks }: Paper, kind: K) =>
  blocks.filter((block): block is Extract<Block, { kind: K }> => block.kind === kind);

describe.each(examples)('%s', (_, record) => {
  const paper = paperOf(record);
  const html = page(paper);

  test('every word of every block stands on it, in the order of the blocks', () => {
    const words = heard(html);
    let at = 0;
    for (const block of paper.blocks) {
      const texts = textsOf(block)
        .map(plain)
        .filter((text) => text !== '');
      for (const text of texts) expect([text, words.includes(text)]).toEqual([text, true]);
      if (block.kind !== 'say' && block.kind !== 'heading') continue;
      const found = words.indexOf(plain(block.text), at);
      expect([block.text, found >= at]).toEqual([block.text, true]);
      at = found;
    }
  });

  test('tables have a caption and heads of their columns, pictures say what they show, headings leave no step out', () => {
    const tables = of(paper, 'table');
    expect(html.match(/<table/g) ?? []).toHaveLength(tables.length);
    expect(html.match(/<caption/g) ?? []).toHaveLength(tables.length);
    expect(html.match(/<th[ >]/g)?.length).toBe(tables.reduce((sum, { columns }) => sum + columns.length, 0));
    expect(html).not.toMatch(/<th(?![^>]*scope=)[ >]/);
    for (const { says } of of(paper, 'drawing')) expect(heard(html)).toContain(plain(says));
    expect(html.match(/<svg(?![^>]*(role="img"|aria-hidden="true"))/g)).toBeNull();
    const levels = [...html.matchAll(/<h(\d)/g)].map(([, level]) => Number(level));
    for (const [index, level] of levels.entries()) expect(level - (levels[index - 1] ?? level)).toBeLessThanOrEqual(1);
  });

  test('nothing of the program shows, and the strip is a page like it', () => {
    for (const one of [html, page(receiptOf(record))]) expect(heard(one)).not.toMatch(/undefined|NaN|\[object|\bnull\b/);
    expect(heard(page(receiptOf(record)))).toContain(plain(record.tests[0].system?.name ?? 'no system'));
  });
});

describe('what people typed', () => {
  const [, record] = examples[0];
  const with_ = (change: Partial<TestRecord>): TestRecord => ({ ...record, ...change });

  test('is text and never a tag', () => {
    const html = page(
      paperOf(
        with_({ site: { name: '<script>alert(1)</script>', address: '"quoted" & <b>bold</b>', occupier: '' } as TestRecord['site'] }),
      ),
    );
    expect(html).not.toMatch(/<script|<b>bold/);
    expect(heard(html)).toContain('<script>alert(1)</script>');
  });

  test('a photograph shows where there is one at hand, under its name and moment; where there is none that is said', () => {
    const [first] = record.tests;
    const [attempt] = first.attempts;
    const hash = 'f'.repeat(64);
    const shot = {
      ...attempt.events[0],
      id: '00000000-0000-4000-8000-0000000000aa',
      type: 'photo' as const,
      hash,
      takenAt: attempt.events[0].observedAt,
      text: 'Joint by the meter',
    };
    const { judgement: _, ...bare } = attempt;
    const taken = with_({
      tests: [{ ...first, attempts: [{ ...bare, events: [...attempt.events, shot] }] }],
      photos: [{ run: shot.run, hash, stored: hash, copy: hash, takenAt: shot.takenAt }],
    });
    const seen = page(paperOf(taken), (one) => `/pictures/${one}`);
    expect(seen).toContain(`src="/pictures/${hash}"`);
    expect(seen).toMatch(/<img[^>]*alt="[^"]*Joint by the meter/);
    const unseen = page(paperOf(taken));
    expect(unseen).not.toContain('<img');
    expect(heard(unseen)).toContain('Joint by the meter');
  });
});
