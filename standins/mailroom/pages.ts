import type { ParsedMail } from 'mailparser';
import type { Letterhead } from './postbox.ts';

const escape = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

export const STYLE = `body{margin:0;font:14px/1.5 system-ui,sans-serif;color:#23272f;background:#fbf8f2}header{border-bottom:1px solid #e4dccf;padding:.7rem 1.2rem;display:flex;gap:1rem;align-items:baseline}
header b{font:600 18px Georgia,serif;color:#8f5e2c}main{padding:1rem 1.2rem;max-width:70rem}table{border-collapse:collapse;width:100%}th{text-align:left;color:#646a73;font-weight:500}td,th{border-bottom:1px solid #e4dccf;padding:.35rem .6rem .35rem 0}
a{color:#2f5277}iframe{width:100%;height:32rem;border:1px solid #e4dccf;background:#fff}pre{white-space:pre-wrap;background:#fff;border:1px solid #e4dccf;padding:.8rem}summary{cursor:pointer;color:#2f5277;margin:.8rem 0 .3rem}input,button{font:inherit;padding:.2rem .5rem}`;

const frame = (title: string, body: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>${escape(title)}</title><link rel="stylesheet" href="/style.css"></head><body>${body}</body></html>`;

export function inboxPage(messages: readonly Letterhead[], total: number, search: string): string {
  const rows = messages
    .map(
      (one) =>
        `<tr><td>${escape(one.at.slice(0, 19).replace('T', ' '))}</td><td>${escape(one.to.join(', '))}</td><td><a href="/messages/${one.id}">${escape(one.subject || '(no subject)')}</a></td><td>${escape(one.attachments.join(', '))}</td></tr>`,
    )
    .join('');
  return frame(
    'Mail room',
    `<header><b>Mail room</b><span>${total} messages; nothing leaves this machine</span><form><input name="q" aria-label="Find" placeholder="Find address or subject" value="${escape(search)}"> <button>Find</button></form><form method="post" action="/empty"><button>Empty</button></form></header>
     <main><table><thead><tr><th>Came (UTC)</th><th>To</th><th>Subject</th><th>Attached</th></tr></thead><tbody>${rows || '<tr><td colspan="4">No mail yet.</td></tr>'}</tbody></table></main>`,
  );
}

export function messagePage(id: string, message: ParsedMail): string {
  const headers = message.headerLines.map((one) => one.line).join('\n');
  const files = message.attachments
    .map(
      (file, index) =>
        `<li><a href="/messages/${id}/attachments/${index}">${escape(file.filename ?? 'attachment')}</a> ${file.contentType}, ${file.size} bytes</li>`,
    )
    .join('');
  const to = Array.isArray(message.to) ? message.to.map((one) => one.text).join(', ') : (message.to?.text ?? '');
  return frame(
    message.subject ?? 'Message',
    `<header><b>Mail room</b><a href="/">All mail</a></header><main><h1>${escape(message.subject ?? '')}</h1>
     <p>From ${escape(message.from?.text ?? '')}<br>To ${escape(to)}</p>${files ? `<ul>${files}</ul>` : ''}
     <iframe src="/messages/${id}/html" title="HTML part" sandbox></iframe>
     <details><summary>Text</summary><pre>${escape(message.text ?? '')}</pre></details>
     <details><summary>Headers</summary><pre>${escape(headers)}</pre></details><p><a href="/messages/${id}/raw">Source</a></p></main>`,
  );
}
