import { Browser } from './lib/browser.ts';
import { Key } from 'selenium-webdriver';
const [name, path, ...steps] = process.argv.slice(2);
const [w, h] = (process.env['SIZE'] ?? '1280x800').split('x').map(Number);
const browser = await Browser.open(w, h);
try {
  await browser.signIn('http://127.0.0.1:4460', process.env['AS'] ?? 'Desmond Kettleworth');
} catch (e) { console.log('signin', String(e).slice(0, 300)); }
const b = browser as any;
if (process.env['DARK']) await b.driver.executeScript("document.documentElement.dataset.theme='dark'; localStorage.setItem('theme','dark')");
await browser.go(`http://127.0.0.1:4460${path}`);
await browser.atRest();
for (const step of steps) {
  const at = step.indexOf('=');
  const [what, value] = [step.slice(0, at), step.slice(at + 1)];
  try {
    if (what === 'press') await browser.press(value);
    else if (what === 'see') await browser.see(value);
    else if (what === 'fill') await browser.fill(value.split('|')[0]!, value.split('|')[1]!);
    else if (what === 'choose') await browser.choose(value.split('|')[0]!, value.split('|')[1]!);
    else if (what === 'keys') for (const k of value.split('+')) await browser.keys((Key as any)[k] ?? k);
    else if (what === 'ctrl') await browser.control(value);
    else if (what === 'focus') await b.driver.executeScript('document.querySelector(arguments[0]).focus()', value);
    else if (what === 'js') console.log(JSON.stringify(await b.driver.executeScript(value)));
    else if (what === 'wait') await new Promise((r) => setTimeout(r, Number(value)));
    else if (what === 'shot') await browser.picture(`/tmp/w/${value}.png`);
  } catch (e) { console.log(step, String(e).slice(0, 600)); }
}
await browser.atRest();
await browser.picture(`/tmp/w/${name}.png`);
await browser.close();
