import { mkdtempSync, rmSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Builder, By, Key, until } from 'selenium-webdriver';
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

  go(url: string): Promise<void> {
    return this.driver.get(url);
  }

  /** Waits for an element that can be seen; by CSS, or by XPath when it begins with a slash. */
  async see(selector: string, milliseconds = SLOW): Promise<WebElement> {
    const by = selector.startsWith('/') ? By.xpath(selector) : By.css(selector);
    const element = await this.driver.wait(until.elementLocated(by), milliseconds, `${selector} did not appear`);
    await this.driver.wait(until.elementIsVisible(element), milliseconds, `${selector} was not visible`);
    return element;
  }

  /** Waits until the page shows a text. */
  async seeText(text: string, milliseconds = SLOW): Promise<void> {
    await this.driver.wait(async () => (await this.text()).includes(text), milliseconds, `“${text}” did not appear`);
  }

  async text(): Promise<string> {
    return this.driver.executeScript('return document.body.innerText');
  }

  /** Waits for what matches; of several, what is in the dialog on top is meant. */
  private async meant(xpath: string): Promise<WebElement> {
    const [inDialog] = await this.driver.findElements(By.xpath(`(//*[@role="dialog"])[last()]${xpath}`));
    return inDialog ?? this.see(xpath);
  }

  /** Clicks a button or link by its words. */
  async press(words: string): Promise<void> {
    const quoted = `"${words}"`;
    const element = await this.meant(
      `//*[self::button or self::a or @role="menuitem" or @role="tab"][normalize-space(.)=${quoted} or @aria-label=${quoted} or starts-with(normalize-space(.), ${quoted})]`,
    );
    await this.driver.wait(until.elementIsEnabled(element), SLOW, `${words} stayed disabled`);
    // A dialog's buttons stay at its bottom and would lie over what is just above them.
    await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
    await element.click();
  }

  /** Sends keys to whatever has the focus. */
  async keys(...keys: string[]): Promise<void> {
    for (const key of keys) await this.driver.actions().sendKeys(key).perform();
  }

  /** Presses a key while Control is held. */
  async control(key: string): Promise<void> {
    await this.driver.actions().keyDown(Key.CONTROL).sendKeys(key).keyUp(Key.CONTROL).perform();
  }

  /** Fills the control that a label names. */
  async fill(label: string, value: string): Promise<void> {
    const element = await this.meant(`//*[@aria-label="${label}" or @id=//label[normalize-space(.)="${label}"]/@for]`);
    await this.driver.executeScript('arguments[0].scrollIntoView({ block: "center" })', element);
    await element.clear();
    await element.sendKeys(value);
  }

  async choose(label: string, option: string): Promise<void> {
    const element = await this.meant(
      `//select[@aria-label="${label}" or @id=//label[normalize-space(.)="${label}"]/@for or ancestor::label[starts-with(normalize-space(.), "${label}")]]`,
    );
    await (await element.findElement(By.xpath(`.//option[starts-with(normalize-space(.), "${option}")]`))).click();
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
