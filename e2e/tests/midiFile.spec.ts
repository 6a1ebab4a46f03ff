import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { readSmf, writeSmf } from '../../core/src/formats/smf';
import { expect, heard, open, startSound, test } from './rackle';

const REEL = join(import.meta.dirname, '../../demo/pewter-jug-reel.mid');

/** Lets a file fall onto the page, as a hand drags one from a folder. */
async function dropFile(page: Page, name: string, bytes: Uint8Array, onto: string): Promise<void> {
  const transfer = await page.evaluateHandle(
    ([file, content]) => {
      const data = new DataTransfer();
      data.items.add(new File([Uint8Array.from(content)], file, { type: 'audio/midi' }));
      return data;
    },
    [name, [...bytes]] as const,
  );
  await page.dispatchEvent(onto, 'drop', { dataTransfer: transfer });
}

test('a MIDI file dropped on the songs becomes a song: its sections, its bass played by a new layer, heard; one step takes it back', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/library');
  await dropFile(page, 'reel.mid', readFileSync(REEL), 'input[aria-label="find a song"]');
  const sheet = page.getByRole('dialog', { name: 'reel.mid' });
  await expect(sheet).toContainText('format 1: 1 track that plays something, 140 bars, 176 a minute, 4/4');
  await expect(sheet.getByRole('row', { name: /Bass/ })).toContainText('544 notes');
  await sheet.getByRole('combobox', { name: 'what becomes of Bass, channel 1' }).click();
  await page.getByRole('option', { name: 'a new layer: Causeway' }).click();
  await expect(sheet.getByTestId('midi-outcome')).toContainText('5 sections, 0 cues, 1 backing part');
  await sheet.getByRole('button', { name: 'Bring it in' }).click();
  await expect(page.getByRole('heading', { name: 'Pewter Jug Reel' })).toBeVisible();
  await expect(page.getByRole('group', { name: 'Bass: a backing part of 544 notes' })).toBeVisible();
  await expect(page.getByRole('list', { name: 'sections' }).getByRole('listitem')).toHaveText([
    'Count',
    'Jug',
    'Reel',
    'Jug again',
    'Tip',
  ]);
  await startSound(page);
  await page.getByRole('button', { name: 'Stand in this song' }).click();
  const position = page.getByRole('textbox', { name: 'position', exact: true });
  await position.fill('5 : 1');
  await position.press('Enter');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await heard(page);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByText('This song is not there any more.')).toBeVisible();
});

test('a file goes into the song of the page, as far as one chooses; what is no MIDI file is refused in words', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/timeline/tin-roof-waltz');
  const cues = await page.getByRole('tab', { name: /cue/ }).textContent();
  const file = writeSmf(
    [
      { name: 'Tin Roof', messages: [{ kind: 'text', atTick: 0, type: 6, text: 'Sky' }], endTick: 9600 },
      {
        name: 'Pads',
        device: 'Skerry',
        messages: [
          { kind: 'message', atTick: 0, status: 0xb2, data1: 0, data2: 0 },
          { kind: 'message', atTick: 0, status: 0xb2, data1: 32, data2: 1 },
          { kind: 'message', atTick: 0, status: 0xc2, data1: 4, data2: 0 },
          { kind: 'message', atTick: 960, status: 0xb2, data1: 7, data2: 90 },
        ],
      },
      { name: 'Left', messages: [{ kind: 'message', atTick: 0, status: 0x90, data1: 60, data2: 90 }] },
    ],
    960,
    500_000,
  );
  await page.getByRole('tab', { name: /backing part/ }).click();
  await page.getByLabel('a MIDI file from this machine').setInputFiles({
    name: 'not.mid',
    mimeType: 'audio/midi',
    buffer: Buffer.from('no'),
  });
  await expect(page.getByText('not.mid: this is not a Standard MIDI File')).toBeVisible();
  await page.getByLabel('a MIDI file from this machine').setInputFiles({
    name: 'pads.mid',
    mimeType: 'audio/midi',
    buffer: Buffer.from(file),
  });
  const sheet = page.getByRole('dialog', { name: 'pads.mid' });
  await sheet.getByRole('button', { name: /tempo, meter and bars/ }).click();
  await sheet.getByRole('combobox', { name: 'what becomes of Left, channel 1' }).click();
  await page.getByRole('option', { name: 'left out' }).click();
  await expect(sheet.getByTestId('midi-outcome')).toContainText('0 sections, 2 cues, 0 backing parts');
  await sheet.getByRole('button', { name: 'Bring it in' }).click();
  await expect(sheet).toBeHidden();
  await page.getByRole('tab', { name: /cue/ }).click();
  const table = page.getByRole('table', { name: 'cues' });
  await expect(table.getByRole('combobox', { name: 'port of the cue' }).filter({ hasText: 'Skerry' })).toHaveCount(2);
  await expect(page.getByRole('tab', { name: /cue/ })).not.toHaveText(cues!);
  await expect(page.getByText('Sky', { exact: true })).toBeHidden();
});

test('the setlist goes out as a file with numbers for its recalls, saying before what it cannot hold', async ({
  page,
  demo,
}) => {
  await open(page, demo, '/timeline/slow-bell');
  await page.getByRole('tab', { name: /backing part/ }).click();
  await page.getByRole('button', { name: 'save as a MIDI file' }).click();
  const sheet = page.getByRole('dialog', { name: 'A MIDI file' });
  await expect(sheet).toContainText('a tempo that changes little by little is written as steps');
  await sheet.getByRole('combobox', { name: 'what the file holds' }).click();
  await page.getByRole('option', { name: /the whole setlist/ }).click();
  const saved = page.waitForEvent('download');
  await sheet.getByRole('button', { name: 'Save Midsummer at Tern Ledge.mid' }).click();
  const path = await (await saved).path();
  const read = readSmf(readFileSync(path));
  if (!read.ok) throw new Error(read.error.message);
  const recalls = read.value.tracks.find(({ name }) => name === 'Rackle')!;
  expect(recalls.messages.length).toBeGreaterThan(15);
  expect(read.value.tracks[0].metas.filter((meta) => meta.kind === 'text' && meta.type === 6).length).toBeGreaterThan(
    20,
  );
});
