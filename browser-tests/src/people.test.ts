import { violationsOn } from './axe';
import { By, openBrowser, Page, TestServer } from './harness';

// Two people at one server: the owner, and Ada, who comes in by an invitation.
const TOKEN = 'a-token-of-sixteen';
const server = new TestServer({ VELDTWIND_TOKEN: TOKEN });
const browsers: Awaited<ReturnType<typeof openBrowser>>[] = [];
let owner: Page;
let ada: Page;
let project: string;
async function visitor(): Promise<Page> {
  const browser = await openBrowser();
  browsers.push(browser);
  return new Page(browser.driver, server.base);
}
beforeAll(async () => {
  await server.start();
  project = await server.demo();
  owner = await visitor();
  ada = await visitor();
}, 120_000);
afterAll(async () => {
  for (const b of browsers) await b.close();
  await server.stop();
});
const go = (page: Page, css: string) => page.click(css);

describe('people with names', () => {
  it('sign in with a token, and get to where they wanted', async () => {
    await owner.open(`/p/${project}/lift?c=b`);
    await owner.find('[data-test=token]');
    expect(await violationsOn(owner)).toEqual([]);
    await (await owner.find('[data-test=token]')).sendKeys('not-the-token-at-all');
    await go(owner, '[data-test=sign-in]');
    await owner.until('refused', async () => /Nobody has this token/.test(await owner.text('main')));
    await (await owner.find('[data-test=token]')).clear();
    await (await owner.find('[data-test=token]')).sendKeys(TOKEN);
    await go(owner, '[data-test=sign-in]');
    await owner.until('there', async () => (await owner.driver.getCurrentUrl()).includes(`/p/${project}/lift?c=b`));
    await owner.saved();
  });

  it('come in by a link that works once', async () => {
    await go(owner, '[data-test=team]');
    await go(owner, '[data-test=invite]');
    const link = await owner.text('[data-test=secret]');
    expect(link).toContain('/join#');
    expect(await violationsOn(owner)).toEqual([]);
    await ada.driver.get(link);
    await ada.find('[data-test=join-name]');
    expect(await violationsOn(ada)).toEqual([]);
    await (await ada.find('[data-test=join-name]')).sendKeys('Ada Veld');
    await go(ada, '[data-test=join]');
    await ada.until('in the project', async () => /Brief/.test(await ada.text('h1')));
    const again = await visitor();
    await again.driver.get(link);
    await (await again.find('[data-test=join-name]')).sendKeys('Eve');
    await go(again, '[data-test=join]');
    await again.until('used', async () => /used already/.test(await again.text('main')));
  });

  it('see each other, and follow', async () => {
    await owner.open(`/p/${project}/brief?c=a`);
    await owner.until('Ada’s mark', async () => (await owner.text('[data-test=someone]')) === 'AV');
    await ada.open(`/p/${project}/motion?c=c`);
    await owner.until('where she is', async () =>
      /Ada Veld: Motion, candidate C/.test(
        (await (await owner.find('[data-test=someone]')).getAttribute('title')) ?? '',
      ),
    );
    await go(owner, '[data-test=someone]');
    await owner.until('followed', async () => (await owner.driver.getCurrentUrl()).endsWith('/motion?c=c'));
    await ada.open(`/p/${project}/balance?c=b`);
    await owner.until('followed on', async () => (await owner.driver.getCurrentUrl()).endsWith('/balance?c=b'));
    await go(owner, '[data-test=someone]');
  });

  it('have their names on their edits, and take back their own', async () => {
    await ada.open(`/p/${project}/brief?c=a`);
    await ada.type('Speed', '31');
    await ada.saved();
    await owner.open(`/p/${project}/brief?c=a`);
    await owner.until('told', async () => (await owner.value('Speed')) === '31.0');
    await go(owner, '[data-test=versions]');
    await owner.until('named', async () => /Ada Veld/.test(await owner.text('[data-test=history]')));
    await go(owner, '[data-test=versions]');
    // The owner has made no step: undo asks before it takes back Ada's.
    await go(owner, '[data-test=undo]');
    await owner.until('asks', async () => /a step of Ada Veld/.test(await owner.text('[data-sonner-toaster]')));
    expect(await ada.value('Speed')).toBe('31.0');
    await owner.driver.findElement(By.xpath('//button[normalize-space(.)="Take it back"]')).click();
    await ada.until('taken back', async () => (await ada.value('Speed')) !== '31.0');
  });

  it('see each other’s hand on a section', async () => {
    const path = `/p/${project}/sections/karoo-12?view=shape`;
    const { version, document } = await server.call<{
      version: number;
      document: { sections: Record<string, { steps: object[] }> };
    }>('GET', `/projects/${project}`);
    const section = document.sections['karoo-12'];
    const bump = { id: 'hand', kind: 'bump', surface: 'upper', at: 0.5, width: 0.4, height: 0.004 };
    await server.call('POST', `/projects/${project}/edits`, {
      baseVersion: version,
      label: 'A bump',
      changes: [{ part: 'section:karoo-12', value: { ...section, steps: [...section.steps, bump] } }],
    });
    await owner.open(path);
    await ada.open(path);
    await ada.click('[data-test=step] button');
    const handle = await ada.find('[data-test=shape-handle]');
    const hand = ada.driver.actions({ async: true });
    await hand.move({ origin: handle }).press().move({ origin: handle, x: 30, y: -6 }).perform();
    await owner.until('her hand', async () => (await owner.text('[data-test=their-handle] text')).startsWith('AV'));
    await ada.driver.actions({ async: true }).release().perform();
    await owner.until(
      'gone',
      async () => (await owner.driver.findElements(By.css('[data-test=their-handle]'))).length === 0,
    );
  });

  it('comment on a view, and lead back to it', async () => {
    await ada.open(`/p/${project}/drag?c=b`);
    await ada.saved();
    await go(ada, '[data-test=comments]');
    await (await ada.find('[data-test=comment-text]')).sendKeys('Is the strut in here?');
    await go(ada, '[data-test=say]');
    await owner.until('told', async () => (await owner.text('[data-test=comments]')) === '1');
    await go(owner, '[data-test=comments]');
    expect(await owner.text('[data-test=comment]')).toMatch(/Is the strut in here\?\s+Ada Veld, /);
    await owner.driver.findElement(By.css('[data-test=comment] a')).click();
    await owner.until('led', async () => (await owner.driver.getCurrentUrl()).endsWith('/drag?c=b'));
  });

  it('may do what their role allows, from the moment that it changes', async () => {
    await owner.open(`/p/${project}/brief?c=a`);
    await ada.open(`/p/${project}/brief?c=a`);
    await ada.saved();
    const before = await ada.value('Speed');
    await go(owner, '[data-test=team]');
    const role = await owner.find('[data-test=member] select');
    await role.sendKeys('reads');
    await owner.until('kept', async () => {
      const { people } = await server.call<{ people: { role: string }[] }>('GET', `/projects/${project}/people`);
      return people[0].role === 'read';
    });
    await ada.until('told', async () => {
      await ada.type('Speed', '44');
      return /You may read this project, not change it/.test(await ada.text('[data-sonner-toaster]'));
    });
    expect(await ada.value('Speed')).toBe(before);
    expect((await ada.driver.findElements(By.css('[data-test=invite]'))).length).toBe(0);
  });

  it('are listed for the owner, with the log of what they did; an ended access is at an end', async () => {
    await owner.open('/people');
    await owner.until('listed', async () => /Ada Veld/.test(await owner.text('[data-test=person]:nth-child(2)')));
    expect(await owner.text('[data-test=audit]')).toMatch(/Ada Veld\s+joined/);
    for (let i = 0; i < 2; i++)
      await owner.driver.findElement(By.css('[aria-label="End the access of Ada Veld"]')).click();
    await owner.until('gone', async () => !/Ada Veld/.test(await owner.text('main ul')));
    await ada.open('/');
    await ada.until('signed out', async () => /asks who you are/.test(await ada.text('main')));
  });
});
