import { mkdtempSync, rmSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder, By, error, Key } from 'selenium-webdriver';
import type { WebDriver, WebElement } from 'selenium-webdriver';
import { Options, ServiceBuilder } from 'selenium-webdriver/chrome.js';
import type { Driver } from 'selenium-webdriver/chrome.js';

const FLAGS = [
  '--headless=new',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-dev-shm-usage',
  '--hide-scrollbars',
  '--force-color-profile=srgb',
  '--lang=en-US',
];

/** How long anything may take to appear, on a machine that is busy with other work. */
const SLOW = 30_000;

/** What goes by itself: the element was drawn anew, is still moving, or lies under something that is going away. */
const PASSING = [
  error.StaleElementReferenceError,
  error.ElementClickInterceptedError,
  error.ElementNotInteractableError,
  error.NoSuchElementError,
];

/** What a page, or the dialog on top of it, says and holds, and what has the focus. */
const STATE = `const top = [...document.querySelectorAll('[role=dialog]')].at(-1) ?? document.body;
  const boxes = [...top.querySelectorAll('input, select, textarea')].map((box) => (box.ariaLabel ?? box.labels?.[0]?.innerText ?? '') + '=' + box.value);
  const here = document.activeElement;
  return [location.pathname + location.search, top.innerText.slice(0, 1500), boxes.slice(0, 60).join('; '), 'focus: ' + (here?.ariaLabel ?? here?.labels?.[0]?.innerText ?? here?.tagName)].join(' | ');`;

/** A spot on the page. Its element is found again each time it is used, so that what was drawn anew is no matter. */
export class Spot {
  constructor(
    private readonly driver: WebDriver,
    private readonly find: () => Promise<WebElement | undefined>,
    private readonly words: string,
    private readonly patience: number,
  ) {}

  /** Does something with the element that can be seen there; with the one there now where the first has gone. */
  async do<T>(work: (element: WebElement) => Promise<T>): Promise<T> {
    let done: { answer: T } | null = null;
    let last = 'did not appear';
    await this.driver
      .wait(async () => {
        try {
          const element = await this.find();
          if (!element) return false;
          last = 'was not visible';
          if (!(await element.isDisplayed())) return false;
          done = { answer: await work(element) };
          return true;
        } catch (problem) {
          if (!PASSING.some((kind) => problem instanceof kind)) throw problem;
          last = (problem as Error).message;
          return false;
        }
      }, this.patience)
      .catch(async (problem: unknown) => {
        if (!(problem instanceof error.TimeoutError)) throw problem;
        const there = await this.driver.executeScript<string>(STATE);
        throw new Error(`${this.words}: ${last}. What was there: ${there}`, { cause: problem });
      });
    return (done as unknown as { answer: T }).answer;
  }

  click(): Promise<void> {
    return this.do(async (element) => {
      try {
        await element.click();
      } catch (problem) {
        // What stays in sight at an edge of a list may lie over it: brought to the middle, it is clicked next time.
        if (problem instanceof error.ElementClickInterceptedError)
          await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
        throw problem;
      }
    });
  }
  type(...keys: string[]): Promise<void> {
    return this.do((element) => element.sendKeys(...keys));
  }
  text(): Promise<string> {
    return this.do((element) => element.getText());
  }
  attribute(name: string): Promise<string | null> {
    return this.do((element) => element.getAttribute(name));
  }
  enabled(): Promise<boolean> {
    return this.do((element) => element.isEnabled());
  }
  width(): Promise<number> {
    return this.do(async (element) => (await element.getRect()).width);
  }
  focus(): Promise<void> {
    return this.do((element) => this.driver.executeScript('arguments[0].focus()', element));
  }
  /** Whether it is what has the focus. */
  focused(): Promise<boolean> {
    return this.do((element) => this.driver.executeScript('return arguments[0] === document.activeElement', element));
  }
  /** Takes it by the mouse and lets it go so many pixels to the right. */
  drag(right: number): Promise<void> {
    return this.do((element) => this.driver.actions().dragAndDrop(element, { x: right, y: 0 }).perform());
  }
}

const byOf = (selector: string): By => (/^[/(]/.test(selector) ? By.xpath(selector) : By.css(selector));

/** Waits for what moves an element, as a notice that slides in: the press would land beside it. */
const STANDS_STILL = `
  const [element, done] = arguments;
  const moves = ({ effect, playState }) =>
    playState === 'running' && effect.target?.contains(element) && effect.getTiming().iterations !== Infinity;
  requestAnimationFrame(() =>
    Promise.allSettled(document.getAnimations().filter(moves).map(({ finished }) => finished)).then(() => done()),
  );
`;

/** A headless Chromium with a profile of its own, and the few moves that tests and pictures are made of. */
export class Browser {
  private constructor(
    readonly driver: WebDriver,
    private readonly profile: string,
  ) {}

  static async open(width = 1280, height = 800): Promise<Browser> {
    const profile = mkdtempSync(join(tmpdir(), 'tallystick-browser-'));
    const options = new Options();
    options.addArguments(...FLAGS, `--window-size=${width},${height}`, `--user-data-dir=${profile}`);
    options.setChromeBinaryPath('/usr/bin/chromium');
    options.setUserPreferences({ 'download.default_directory': profile, 'plugins.always_open_pdf_externally': true });
    const driver = await new Builder()
      .forBrowser('chrome')
      .setChromeOptions(options)
      .setChromeService(new ServiceBuilder('/usr/bin/chromedriver'))
      .build();
    // The window's own frame counts in its size; the page is to be exactly this large.
    const inner: [number, number] = await driver.executeScript('return [innerWidth, innerHeight]');
    await driver
      .manage()
      .window()
      .setRect({ width: 2 * width - inner[0], height: 2 * height - inner[1] });
    return new Browser(driver, profile);
  }

  async close(): Promise<void> {
    await this.driver.quit();
    rmSync(this.profile, { recursive: true, force: true });
  }

  /** Takes the network away from the page, or gives it back. */
  async offline(away: boolean): Promise<void> {
    const conditions = { offline: away, latency: 0, download_throughput: -1, upload_throughput: -1 };
    await (this.driver as Driver).setNetworkConditions(conditions);
  }

  /** Makes each answer come so many milliseconds later; 0 ends that. */
  async slowBy(latency: number): Promise<void> {
    const driver = this.driver as Driver;
    const conditions = { offline: false, latency, download_throughput: -1, upload_throughput: -1 };
    await (latency === 0 ? driver.deleteNetworkConditions() : driver.setNetworkConditions(conditions));
  }

  go(url: string): Promise<void> {
    return this.driver.get(url);
  }

  /** Waits for an element that can be seen; by CSS, or by XPath when it begins with a slash. */
  async see(selector: string, milliseconds = SLOW): Promise<Spot> {
    const spot = new Spot(this.driver, async () => (await this.all(selector))[0], selector, milliseconds);
    await spot.do(() => Promise.resolve());
    return spot;
  }

  /** What matches now, seen or not. */
  all(selector: string): Promise<WebElement[]> {
    return this.driver.findElements(byOf(selector));
  }

  /** The words of all that match now, in one look. */
  words(selector: string): Promise<string[]> {
    return this.driver.executeScript(
      'return [...document.querySelectorAll(arguments[0])].map((one) => one.innerText)',
      selector,
    );
  }

  /**
   * Waits until nothing on the page moves or has changed for a while, and it says of nothing that it is still being
   * read, however late the answers come.
   */
  atRest(): Promise<void> {
    return this.driver.executeAsyncScript(`
      const done = arguments[arguments.length - 1];
      const moves = (one) => one.playState === 'running' && one.effect.getComputedTiming().endTime !== Infinity;
      const begun = Date.now();
      const reads = () => Date.now() - begun < 20000 && /(Opening|Reading|Counting) …/.test(document.body.innerText);
      const look = () => (document.getAnimations().some(moves) || reads() ? again() : done());
      let timer;
      const again = () => {
        clearTimeout(timer);
        timer = setTimeout(look, 300);
      };
      new MutationObserver(again).observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
      again();
    `);
  }

  /** Waits until what is typed goes where it is meant to: to what matches a CSS selector. */
  focusOn(selector: string): Promise<void> {
    return this.until(
      () => this.driver.executeScript('return document.activeElement.matches(arguments[0])', selector),
      `${selector}: did not get the focus`,
    );
  }

  /** Waits until something is so. */
  async until(what: () => Promise<boolean>, words: string, milliseconds = SLOW): Promise<void> {
    try {
      await this.driver.wait(what, milliseconds);
    } catch (problem) {
      if (!(problem instanceof error.TimeoutError)) throw problem;
      throw new Error(`${words}. What was there: ${await this.driver.executeScript<string>(STATE)}`, {
        cause: problem,
      });
    }
  }

  /** Waits until the page shows a text. */
  async seeText(text: string, milliseconds = SLOW): Promise<void> {
    await this.until(async () => (await this.text()).includes(text), `“${text}” did not appear`, milliseconds);
  }

  async text(): Promise<string> {
    return this.driver.executeScript('return document.body.innerText');
  }

  /** What matches; of several, what is in the dialog on top is meant. */
  private meant(xpath: string): Spot {
    const find = async () => (await this.all(`(//*[@role="dialog"])[last()]${xpath}`))[0] ?? (await this.all(xpath))[0];
    return new Spot(this.driver, find, xpath, SLOW);
  }

  /** Clicks a button or link by its words, once it is enabled. */
  async press(words: string): Promise<void> {
    const quoted = `"${words}"`;
    const button = this.meant(
      `//*[self::button or self::a or @role="menuitem" or @role="tab"][normalize-space(.)=${quoted} or @aria-label=${quoted} or starts-with(normalize-space(.), ${quoted})]`,
    );
    await button.do(async (element) => {
      if (!(await element.isEnabled())) throw new error.ElementNotInteractableError('stayed disabled');
      // A dialog's buttons stay at its bottom and would lie over what is just above them.
      await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
      await this.driver.executeAsyncScript(STANDS_STILL, element);
      await element.click();
    });
  }

  /** Sends keys to whatever has the focus. */
  async keys(...keys: string[]): Promise<void> {
    for (const key of keys) await this.driver.actions().sendKeys(key).perform();
  }

  /** Presses a key while another is held. */
  async chord(held: string, key: string): Promise<void> {
    await this.driver.actions().keyDown(held).sendKeys(key).keyUp(held).perform();
  }

  /** Presses a key while Control is held. */
  control(key: string): Promise<void> {
    return this.chord(Key.CONTROL, key);
  }

  /** Presses a key while Control and Shift are held. */
  async controlShift(key: string): Promise<void> {
    const held = this.driver.actions().keyDown(Key.CONTROL).keyDown(Key.SHIFT).sendKeys(key);
    await held.keyUp(Key.SHIFT).keyUp(Key.CONTROL).perform();
  }

  /** Clicks while Shift is held. */
  async shiftClick(selector: string): Promise<void> {
    const spot = await this.see(selector);
    await spot.do((element) => this.driver.actions().keyDown(Key.SHIFT).click(element).keyUp(Key.SHIFT).perform());
  }

  /** Fills the control that a label names. */
  async fill(label: string, value: string): Promise<void> {
    const box = this.meant(`//*[@aria-label="${label}" or @id=//label[normalize-space(.)="${label}"]/@for]`);
    await box.do(async (element) => {
      await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
      // What stands there is written over by keys, as a person does it: a box that is emptied by script may be filled
      // again by the page before the first key comes.
      if ((await element.getAttribute('type')) === 'date') {
        await element.clear();
        await element.sendKeys(value);
      } else await element.sendKeys(Key.chord(Key.CONTROL, 'a'), value === '' ? Key.BACK_SPACE : value);
    });
  }

  /** Gives a file to the page's file box, which is hidden behind a button. */
  async upload(path: string): Promise<void> {
    await this.until(async () => {
      const [box] = await this.all('input[type=file]');
      await box?.sendKeys(path);
      return box !== undefined;
    }, 'no box takes a file');
  }

  /**
   * Chooses in the box that a label names: opens it, types where it is typed in, takes what begins with the option's
   * words. The page may have one of the same label as a dialog: wait for the dialog first.
   */
  async choose(label: string, option: string): Promise<void> {
    const boxed = `//button[@role="combobox"][@aria-label="${label}" or @id=//label[normalize-space(.)="${label}"]/@for or ancestor::label[starts-with(normalize-space(.), "${label}")]]`;
    const box = this.meant(boxed);
    const wanted = `//*[@role="listbox"]//*[@role="option"][starts-with(normalize-space(.), "${option}")]`;
    const adds = `//button[@role="combobox"][@aria-label="Add a filter"]`;
    if (label !== 'Add a filter' && (await this.all(boxed)).length === 0 && (await this.all(adds)).length > 0)
      await this.choose('Add a filter', label);
    await box.do(async (element) => {
      await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
      if ((await element.getAttribute('aria-expanded')) !== 'true') await element.click();
    });
    await (await this.see(wanted)).click();
    await this.until(async () => (await this.all(wanted)).length === 0, `${label} stayed open`);
  }

  async picture(path: string): Promise<void> {
    await writeFile(path, Buffer.from(await this.driver.takeScreenshot(), 'base64'));
  }

  /** Signs in as one of the demo's users from the sign-in page. */
  async signIn(url: string, name = 'Marisol Brightwater'): Promise<void> {
    await this.go(url);
    await this.press(name);
    await this.see('footer[aria-label="Tray"]');
  }
}
