import type { Page } from 'playwright-core';
import { zipSync } from 'fflate';
import { pieceText } from '@vast-swarm/core/piece';
import { smallPiece } from '../support/pieces';
import { openApp } from './openApp';
import { openSmall, pictureTells } from './picture';

/** Nothing is lost: reloads at any moment, two tabs, storage that takes nothing, files from elsewhere. */

const app = openApp();

const nameOf = (page: Page): Promise<string> =>
  page.getByRole('textbox', { name: 'Name of the piece' }).inputValue();

async function rename(page: Page, name: string): Promise<void> {
  const field = page.getByRole('textbox', { name: 'Name of the piece' });
  await field.fill(name);
  await field.press('Enter');
}

/** Waits until the open piece has a name. */
async function named(page: Page, name: string): Promise<void> {
  await page.waitForFunction(
    (wanted) => document.querySelector<HTMLInputElement>('header input')?.value === wanted,
    name,
  );
}

const notice = (page: Page, text: RegExp) => page.getByRole('alert').filter({ hasText: text });

test('an edit is there after a reload that comes at once, however soon', async () => {
  await openSmall(app.page, app.url);
  for (let k = 0; k < 8; k++) {
    const field = app.page.getByRole('textbox', { name: 'Name of the piece' });
    await field.fill(`Edit ${String(k)}`);
    // In one task of the page, so that nothing comes between the edit and its end.
    const loaded = app.page.waitForEvent('load');
    await field.evaluate((element, wait) => {
      element.blur();
      if (wait === 0) location.reload();
      else
        setTimeout(() => {
          location.reload();
        }, wait);
    }, k);
    await loaded;
    await pictureTells(app.page, (d) => Number(d.alive) > 0);
    expect(await nameOf(app.page)).toBe(`Edit ${String(k)}`);
  }
});

test('two tabs have one piece: what is done in one is seen in the other, and can be kept when it is deleted', async () => {
  await openSmall(app.page, app.url);
  const other = await app.page.context().newPage();
  await other.goto(app.page.url());
  await pictureTells(other, (d) => Number(d.alive) > 0);
  await rename(app.page, 'From the first');
  await named(other, 'From the first');
  await rename(other, 'From the second');
  await named(app.page, 'From the second');
  // Deleted in the first: the second says so, and brings it back.
  await app.page.goto(app.url);
  await app.page.getByRole('button', { name: 'Delete From the second' }).click();
  const gone = notice(other, /was deleted in another tab/);
  await gone.getByRole('button', { name: 'Keep it' }).click();
  await app.page.getByRole('link', { name: 'Open From the second' }).waitFor();
});

test('where storage is full a new piece and its edits stay on the way round, and that is said', async () => {
  await app.page.goto(app.url);
  await app.page.getByRole('region', { name: 'Saltglass Quay' }).waitFor();
  await app.page.evaluate(() => {
    const full = (): never => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
    Object.assign(IDBObjectStore.prototype, { put: full, add: full });
  });
  await app.page.getByRole('button', { name: 'New piece', exact: true }).click();
  await notice(app.page, /storage is full/).waitFor();
  await rename(app.page, 'Unkept');
  await app.page.getByRole('button', { name: 'Render' }).click();
  await app.page.getByRole('heading', { name: 'Render Unkept' }).waitFor();
  await app.page.getByRole('link', { name: 'Back to the workshop' }).click();
  await app.page.getByRole('textbox', { name: 'Name of the piece' }).waitFor();
  expect(await nameOf(app.page)).toBe('Unkept');
  await app.page.getByRole('link', { name: 'Vast Swarm' }).click();
  await app.page.getByRole('link', { name: 'Open Unkept' }).waitFor();
});

test('a video goes on where its view is left, and the page is not left without being asked', async () => {
  // Long enough for all that is done meanwhile.
  const frame = { width: 1280, height: 720, length: 3000 };
  await openSmall(app.page, app.url, (p) => Object.assign(p.frame, frame));
  await app.page.getByRole('button', { name: 'Render' }).click();
  await app.page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  const cancel = app.page.getByRole('button', { name: 'Cancel' });
  await cancel.waitFor();
  await app.page.getByRole('link', { name: 'Back to the workshop' }).click();
  await pictureTells(app.page, (d) => Number(d.alive) > 0);
  await app.page.getByRole('button', { name: 'Render' }).click();
  await cancel.waitFor();
  // What is a video so far would be lost.
  const asks = app.page.waitForEvent('dialog');
  await app.page.evaluate(() => {
    setTimeout(() => {
      location.reload();
    });
  });
  const question = await asks;
  expect(question.type()).toBe('beforeunload');
  await question.dismiss();
  await cancel.click();
  await app.page.getByText(/^Cancelled after/).waitFor();
});

/** Drops files on what is in the middle of the page, as from the desktop. */
async function drop(page: Page, name: string, text: string): Promise<void> {
  await page.evaluate(
    ([file, content]) => {
      const dataTransfer = new DataTransfer();
      dataTransfer.items.add(new File([content], file));
      const at = document.elementFromPoint(innerWidth / 2, 60)!;
      const taken = { bubbles: true, cancelable: true, dataTransfer };
      at.dispatchEvent(new DragEvent('dragover', taken));
      if (at.dispatchEvent(new DragEvent('drop', taken))) throw new Error('the browser opens it');
    },
    [name, text] as const,
  );
}

test('what is dropped is taken in, wherever that is', async () => {
  await openSmall(app.page, app.url);
  await drop(app.page, 'dropped.json', pieceText(smallPiece((p) => (p.name = 'Dropped'))));
  await notice(
    app.page,
    /Dropped was imported from dropped.json; it is on the home page/,
  ).waitFor();
  await drop(app.page, 'rock.obj', 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
  await notice(app.page, /rock was imported from rock.obj; it is in the stock/).waitFor();
  await drop(app.page, 'notes.txt', 'x');
  await notice(app.page, /notes.txt was not imported.\s+notes.txt: this kind of file/).waitFor();
  await app.page.goto(`${app.url}/guide`);
  await app.page.getByRole('heading', { level: 1 }).waitFor();
  await drop(app.page, 'other.json', pieceText(smallPiece((p) => (p.name = 'Other'))));
  await notice(app.page, /Other was imported/).waitFor();
});

test('a zip holds a piece by what is in it; another file than its piece was made with is refused', async () => {
  const rock = new TextEncoder().encode('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
  const zipped = (hash: string): Buffer => {
    const piece = smallPiece((p) => {
      p.name = 'From a zip';
      p.stock.push({ id: 'rock', name: 'Rock', type: 'mesh', source: { file: 'rock.obj', hash } });
    });
    const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
    const files = {
      '__MACOSX/._a.json': bytes('{'),
      'a.json': bytes('{"format":"notes"}'),
      'folder/piece.swarm.json': bytes(pieceText(piece)),
      'folder/stock/rock.obj': rock,
    };
    return Buffer.from(zipSync(files));
  };
  const choose = (buffer: Buffer): Promise<void> =>
    app.page
      .getByLabel('Piece files')
      .setInputFiles({ name: 'a.zip', mimeType: 'application/zip', buffer });
  await app.page.goto(app.url);
  await choose(zipped('f'.repeat(64)));
  await notice(
    app.page,
    /stock\/rock.obj: this is another file .* nothing was taken in/s,
  ).waitFor();
  await choose(zipped(''));
  await notice(app.page, /From a zip was imported/).waitFor();
  await choose(Buffer.from('no zip'));
  await notice(app.page, /The zip cannot be opened/).waitFor();
  await app.page.getByRole('link', { name: 'Open From a zip' }).click();
  await pictureTells(app.page, (d) => Number(d.alive) > 0);
  expect(await notice(app.page, /not in the stock/).count()).toBe(0);
});
