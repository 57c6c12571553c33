import nodemailer from 'nodemailer';
import type { Transporter } from 'nodemailer';

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
 * What became of a message. `bounced`: refused for good. `later`: not taken now, surely not sent. `unsure`: the
 * connection was lost after the message was handed over and before the answer, so it may have arrived.
 */
export type Sent =
  | { kind: 'sent' }
  | { kind: 'bounced'; reason: string }
  | { kind: 'later'; reason: string }
  | { kind: 'unsure'; reason: string };

export interface Mailer {
  send(message: Message): Promise<Sent>;
}

/** Mail by SMTP. Connections are not pooled: a pool may hand a message over again by itself, and we never may. */
export class SmtpMailer implements Mailer {
  private readonly transport: Transporter;

  constructor(url: string) {
    this.transport = nodemailer.createTransport(url, {
      connectionTimeout: 8000,
      greetingTimeout: 8000,
      socketTimeout: 20_000,
    } as object);
  }

  async send(message: Message): Promise<Sent> {
    try {
      await this.transport.sendMail({
        messageId: message.messageId,
        from: { name: message.fromName, address: message.from },
        to: message.to,
        subject: message.subject,
        text: message.text,
        html: message.html,
        headers: message.headers ?? {},
        attachments: message.attachments ?? [],
        disableFileAccess: true,
        disableUrlAccess: true,
      });
      return { kind: 'sent' };
    } catch (error) {
      return outcomeOf(error as { responseCode?: number; command?: string; code?: string; message?: string });
    }
  }
}

function outcomeOf(error: { responseCode?: number; command?: string; code?: string; message?: string }): Sent {
  const reason = (error.message ?? 'unknown').slice(0, 300);
  if (error.responseCode !== undefined && error.responseCode >= 500) return { kind: 'bounced', reason };
  if (error.responseCode !== undefined) return { kind: 'later', reason };
  if (error.command === 'DATA') return { kind: 'unsure', reason };
  return { kind: 'later', reason };
}
