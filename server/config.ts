import type { Mailer } from './platform/mail.ts';

/** What the process is told when it starts. */
export interface AppConfig {
  databaseUrl: string;
  smtpUrl: string;
  /** Holds 'today' still; null for the real calendar. */
  today: string | null;
  demo: boolean;
  /** The card processor; null where cards are not charged. */
  till: { url: string; secret: string } | null;
  /** The giving portal that gifts come from; null where there is none. */
  portal?: { url: string; secret: string } | null;
  /** How long the giving portal is waited for, in milliseconds. */
  portalPatience?: number;
  /** How long the database may be silent before what waits for it is given up, in milliseconds. */
  patience?: number;
  /** How long the card processor is waited for, in milliseconds. */
  tillPatience?: number;
  /** How often facts are held against the database, in milliseconds; 0 for never by themselves. */
  checkFactsEach?: number;
  /** Where the mail room's inbox is read; null with a real mail server. */
  mailRoom: string | null;
  /** The built web app; null serves the API alone. */
  webFolder: string | null;
  /** The address people reach us at; null takes the address that we listen on. */
  publicUrl: string | null;
  /** More names that we answer to, besides those of this computer and of `publicUrl`. */
  hosts?: readonly string[];
  /** How many proxies stand before us, whose word about where a request comes from is taken; none where it is left out. */
  trustProxy?: number;
  logLevel: string;
  /** Where the log goes, without its ending; the console where it is left out. */
  logFile?: string | null;
  mailer?: Mailer;
}
