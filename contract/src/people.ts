import { z } from 'zod';
import { words } from '@veldtwind/core/limits';

/** What a person may do in a project, each with all before it. */
export const ROLES = ['read', 'comment', 'edit', 'own'] as const;
export const role = z.enum(ROLES);
export type Role = z.infer<typeof role>;

/** Who may ask for a route: anybody, whoever is signed in, a role in the project that its path names, or the server's owner. */
export type Access = 'anybody' | 'signed-in' | Role | 'server';

/** Whether a role holds another. */
export const holds = (has: Role | null, needs: Role): boolean =>
  has !== null && ROLES.indexOf(has) >= ROLES.indexOf(needs);

const at = z.string();
const maybe = z.string().nullable();
export const personName = words(60).trim().min(1, 'needs a name');

export const person = z.object({
  id: z.string(),
  name: z.string(),
  keeper: z.boolean().describe('The owner of the server, who has its access token'),
  tokenAt: maybe.describe('When the person’s own token was made'),
  proxyName: maybe.describe('The name under which a proxy in front of the server lets the person in'),
  createdAt: at,
  endedAt: maybe,
});
export type Person = z.infer<typeof person>;

export const session = z.object({ id: z.string(), agent: z.string(), address: z.string(), createdAt: at, usedAt: at });
export type SessionRow = z.infer<typeof session>;

export const invitation = z.object({
  id: z.string(),
  project: maybe,
  role: role.nullable(),
  note: z.string(),
  madeBy: z.string(),
  createdAt: at,
  expiresAt: at,
  usedBy: maybe,
  usedAt: maybe,
});
export type Invitation = z.infer<typeof invitation>;
export const newInvitation = z.object({ role: role.optional(), note: words(120).default('') });
export const madeInvitation = invitation.extend({ code: z.string().describe('Told once'), link: z.string() });

export const teamMember = z.object({ id: z.string(), name: z.string(), role });
export type TeamMember = z.infer<typeof teamMember>;

/** Whoever asks. `named` is false where the server knows no names: on the loopback without a token. */
export const me = z.object({
  named: z.boolean(),
  person: person.nullable(),
  session: maybe,
  roles: z.record(z.string(), role),
});
export type Me = z.infer<typeof me>;

export const comment = z.object({
  id: z.string(),
  person: maybe,
  name: z.string(),
  text: z.string(),
  place: z.string().describe('Address of the view inside the project that it is about'),
  createdAt: at,
  doneAt: maybe,
  doneBy: maybe,
});
export type Comment = z.infer<typeof comment>;
/** A view inside a project: its path behind the project's. */
const PLACE = /^[a-z][a-z-]*(\/[\w.%-]+)?(\?[^\s#]*)?$/;
export const newComment = z.object({
  text: words(2000).trim().min(1, 'needs some words'),
  place: z.string().max(300).regex(PLACE, 'is not the address of a view').default('brief'),
});

export const auditRow = z.object({
  id: z.number(),
  at,
  person: maybe,
  name: z.string(),
  action: z.string(),
  project: maybe,
  detail: z.string(),
  address: z.string(),
});
export type AuditRow = z.infer<typeof auditRow>;

/** A point that somebody drags, in the coordinates of what is drawn. */
const handle = z.object({
  of: z.string().max(80).describe('What it belongs to, as section:ID'),
  x: z.number(),
  y: z.number(),
});
/** Where somebody is in a project. */
export const presence = z.object({
  place: z.string().max(300).regex(PLACE, 'is not the address of a view'),
  /** Shown to others, as “Lift, candidate B”. */ label: z.string().max(80),
  handle: handle.nullable().default(null),
  gone: z.boolean().optional(),
});
export const someone = z.object({
  person: z.string(),
  name: z.string(),
  tab: z.string(),
  place: z.string(),
  label: z.string(),
  handle: handle.nullable(),
});
export type Someone = z.infer<typeof someone>;
