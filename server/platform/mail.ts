import { Readable } from 'node:stream';
import MailComposer from 'nodemailer/lib/mail-composer';
import SMTPConnection from 'nodemailer/lib/smtp-connection';

export interface Message {
  /** Chosen by us and the same at every try, so that a receiving server can tell a repetition. */
  messageId: string;
  from: string;
  fromName: string;
  to: string;
  subject: string;
  text: string;
  html: string;
  headers?: Record<string, string>;
  attachments?: { filename: string; content: Buffer; contentType: string }[];
}

/**
 * What became of a message, told by whose word it is. Of the recipient: `bounced`, no mail goes to this address any
 * more; `busy`, not now. Of the message: `refused`, this one is not taken, and the address is none the worse for it.
 * Of the server or the way to it: `later`, nobody's mail goes now. Of all but `unsure` it is known whether the message
 * was taken; there the connection was lost between handing it over and the answer, so it may have arrived.
 */
export type Sent = { kind: 'sent' } | { kind: 'bounced' | 'busy' | 'refused' | 'later' | 'unsure'; reason: string };

export interface Mailer {
  send(message: Message): Promise<Sent>;
}

/**
 * Mail by SMTP, a connection a message. It drives the conversation itself rather than through a transport or a
 * pool, because it must know whether the message was begun when a connection is lost: until the server has said
 * 'go on' to DATA, nothing was sent for sure; after it, nobody can tell.
 */
export class SmtpMailer implements Mailer {
  private readonly server: URL;

  constructor(url: string) {
    this.server = new URL(url);
  }

  async send(message: Message): Promise<Sent> {
    const source = await sourceOf(message);
    const connection = this.connection();
    let begun = false;
    // Read only once the server has taken the envelope and asked for the message.
    const body = new Readable({
      read() {
        begun = true;
        this.push(source);
        this.push(null);
      },
    });
    try {
      await this.conversation(connection, message, body);
      return { kind: 'sent' };
    } catch (error) {
      return outcomeOf(error as Failure, begun);
    } finally {
      connection.close();
    }
  }

  private connection(): SMTPConnection {
    const { protocol, hostname, port } = this.server;
    const secure = protocol === 'smtps:';
    return new SMTPConnection({
      host: hostname,
      port: Number(port) || (secure ? 465 : 587),
      secure,
      connectionTimeout: 8000,
      greetingTimeout: 8000,
      socketTimeout: 20_000,
    });
  }

  private conversation(connection: SMTPConnection, message: Message, body: Readable): Promise<void> {
    const { username, password } = this.server;
    return new Promise((resolve, reject) => {
      connection.once('error', reject);
      connection.once('end', () => reject(new Error('The mail server closed the connection.')));
      const send = (): void =>
        connection.send({ from: message.from, to: [message.to] }, body, (error) => (error ? reject(error) : resolve()));
      connection.connect((error) => {
        if (error) return reject(error);
        if (username === '') return send();
        const credentials = { user: decodeURIComponent(username), pass: decodeURIComponent(password) };
        connection.login({ credentials }, (refused) => (refused ? reject(refused) : send()));
      });
    });
  }
}

/** The message as it goes over the wire. */
function sourceOf(message: Message): Promise<Buffer> {
  const { fromName, from, headers = {}, attachments = [], ...rest } = message;
  return new MailComposer({
    ...rest,
    from: { name: fromName, address: from },
    headers,
    attachments,
    disableFileAccess: true,
    disableUrlAccess: true,
  })
    .compile()
    .build();
}

interface Failure {
  responseCode?: number;
  response?: string;
  /** The step of the conversation that failed, as `RCPT TO`. */
  command?: string;
  code?: string;
  message?: string;
}

/** The server is closing or asks to come back: no word about a message. */
const CLOSING = 421;
/** RFC 3463: what is refused by a rule of the server, and so says nothing about the address. */
const BY_RULE = /^\d{3}[ -]5\.7\./;

function outcomeOf(error: Failure, begun: boolean): Sent {
  // What the server said, rather than what the library makes of it.
  const reason = (error.response ?? error.message ?? 'unknown').slice(0, 300);
  const answer = error.responseCode;
  if (answer === undefined) {
    if (begun) return { kind: 'unsure', reason };
    // Not handed over at all: what stands in the address is no address.
    return { kind: reason.startsWith('Invalid recipient') ? 'bounced' : 'later', reason };
  }
  // A refused sign-in or sender is ours to mend, and no word about the recipient.
  if (answer === CLOSING || (error.command !== 'RCPT TO' && error.command !== 'DATA')) return { kind: 'later', reason };
  if (answer < 500) return { kind: 'busy', reason };
  const ofMessage = error.command === 'DATA' || BY_RULE.test(error.response ?? '');
  return { kind: ofMessage ? 'refused' : 'bounced', reason };
}
