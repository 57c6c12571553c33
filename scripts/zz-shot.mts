import { Key } from 'selenium-webdriver';
import { Browser } from './lib/browser.ts';
const [name, path, ...steps] = process.argv.slice(2);
const url = 'http://127.0.0.1:4460';
const [w, h] = (process.env['SIZE'] ?? '1280x800').split('x').map(Number);
const browser = await Browser.open();
await browser.driver.manage().window().setRect({ width: w!, height: h! + 0, x: 0, y: 0 });
try {
  await browser.signIn(url, process.env['AS'] ?? 'Marisol Brightwater');
  await browser.go(url + path);
  await new Promise((r) => setTimeout(r, 900));
  for (const step of steps) {
    const at = step.indexOf('=');
    const [what, arg] = [step.slice(0, at), step.slice(at + 1)];
    const [a, b] = arg.split('|');
    if (what === 'press') await browser.press(arg);
    else if (what === 'see') await browser.seeText(arg);
    else if (what === 'fill') await browser.fill(a!, b!);
    else if (what === 'choose') await browser.choose(a!, b!);
    else if (what === 'keys') await browser.keys(...arg.split('+').map((k) => (Key as any)[k] ?? k));
    else if (what === 'upload') await browser.upload(arg);
    else if (what === 'wait') await new Promise((r) => setTimeout(r, Number(arg)));
    else if (what === 'js') console.log(await browser.driver.executeScript(arg));
    else if (what === 'click') await (await browser.see(arg)).click();
    else if (what === 'shot') await browser.picture(`/tmp/w/${arg}.png`);
  }
  await new Promise((r) => setTimeout(r, 500));
  await browser.picture(`/tmp/w/${name}.png`);
  console.log(await browser.driver.getCurrentUrl());
} finally {
  await browser.close();
}
