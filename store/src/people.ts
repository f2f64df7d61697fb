import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { AuditRow, Comment, Invitation, Person, Role, SessionRow, TeamMember } from '@veldtwind/contract';
import { InvalidInput } from '@veldtwind/core/numerics';
import type { Db } from './open';
import { NotFound } from './projects';
import { writing } from './writing';

/** Whoever has the server's access token. */
export const OWNER = 'owner';
/** Days that an invitation holds, and that a session holds without being used. */
const INVITED = 7;
const UNUSED = 60;
const DAY = 24 * 3600 * 1000;
/** Bounds of what is kept. */
const MOST_SESSIONS = 50;
const MOST_INVITATIONS = 100;
const MOST_COMMENTS = 2000;
const MOST_AUDIT = 100_000;
/** A session's last use is written once in so long, ms. */
const USE_STEP = 60_000;

const hash = (secret: string) => createHash('sha256').update(secret).digest('hex');
const secret = () => randomBytes(24).toString('base64url');
const now = () => new Date().toISOString();

const PERSON =
  'id, name, keeper, token_at AS tokenAt, proxy_name AS proxyName, created_at AS createdAt, ended_at AS endedAt';
const INVITATION =
  'id, project_id AS project, role, note, made_by AS madeBy, created_at AS createdAt, expires_at AS expiresAt, used_by AS usedBy, used_at AS usedAt';
const COMMENT = 'id, person, name, text, place, created_at AS createdAt, done_at AS doneAt, done_by AS doneBy';

type PersonRow = Omit<Person, 'keeper'> & { keeper: number };
const personOf = (row: unknown): Person | null =>
  row ? { ...(row as PersonRow), keeper: (row as PersonRow).keeper === 1 } : null;

/** People, their roles, sessions and invitations, comments, and the audit log. Secrets are kept as hashes only. */
export class PeopleStore {
  private readonly q;

  constructor(private readonly db: Db) {
    this.q = {
      person: db.prepare(`SELECT ${PERSON} FROM person WHERE id = ?`),
      all: db.prepare(`SELECT ${PERSON} FROM person ORDER BY keeper DESC, name, id`),
      byToken: db.prepare(`SELECT ${PERSON} FROM person WHERE token_hash = ? AND ended_at IS NULL`),
      byProxy: db.prepare(`SELECT ${PERSON} FROM person WHERE proxy_name = ?`),
      add: db.prepare('INSERT INTO person (id, name, keeper, proxy_name, created_at) VALUES (?, ?, ?, ?, ?)'),
      rename: db.prepare('UPDATE person SET name = ? WHERE id = ?'),
      setToken: db.prepare('UPDATE person SET token_hash = ?, token_at = ? WHERE id = ?'),
      end: db.prepare('UPDATE person SET ended_at = ?, token_hash = NULL, token_at = NULL WHERE id = ?'),
      roleOf: db.prepare('SELECT role FROM person_role WHERE project_id = ? AND person = ?').pluck(),
      rolesOf: db.prepare('SELECT project_id AS project, role FROM person_role WHERE person = ?'),
      setRole: db.prepare(
        'INSERT INTO person_role (project_id, person, role) VALUES (?, ?, ?) ON CONFLICT (project_id, person) DO UPDATE SET role = excluded.role',
      ),
      dropRole: db.prepare('DELETE FROM person_role WHERE project_id = ? AND person = ?'),
      dropRoles: db.prepare('DELETE FROM person_role WHERE person = ?'),
      team: db.prepare(
        'SELECT p.id, p.name, r.role FROM person_role r JOIN person p ON p.id = r.person WHERE r.project_id = ? ORDER BY p.name, p.id',
      ),
      bySession: db.prepare(
        `SELECT s.id AS session, s.used_at AS usedAt, s.person FROM session s WHERE s.secret_hash = ? AND s.used_at > ?`,
      ),
      useSession: db.prepare('UPDATE session SET used_at = ?, address = ? WHERE id = ?'),
      addSession: db.prepare(
        'INSERT INTO session (id, person, secret_hash, agent, address, created_at, used_at) VALUES (?, ?, ?, ?, ?, ?, ?)',
      ),
      sessions: db.prepare(
        'SELECT id, agent, address, created_at AS createdAt, used_at AS usedAt FROM session WHERE person = ? ORDER BY used_at DESC, id',
      ),
      endSession: db.prepare('DELETE FROM session WHERE person = ? AND id = ?'),
      endSessions: db.prepare('DELETE FROM session WHERE person = ?'),
      oldSessions: db.prepare('DELETE FROM session WHERE used_at <= ?'),
      surplus: db.prepare(
        'DELETE FROM session WHERE person = @person AND id NOT IN (SELECT id FROM session WHERE person = @person ORDER BY used_at DESC, id LIMIT @most)',
      ),
      invite: db.prepare(
        'INSERT INTO invitation (id, code_hash, project_id, role, note, made_by, created_at, expires_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
      ),
      invitations: db.prepare(
        `SELECT ${INVITATION} FROM invitation WHERE project_id IS ? ORDER BY created_at DESC, id LIMIT 200`,
      ),
      openOnes: db.prepare('SELECT count(*) FROM invitation WHERE used_at IS NULL AND expires_at > ?').pluck(),
      byCode: db.prepare(`SELECT ${INVITATION} FROM invitation WHERE code_hash = ?`),
      useCode: db.prepare('UPDATE invitation SET used_by = ?, used_at = ? WHERE id = ? AND used_at IS NULL'),
      dropInvitation: db.prepare('DELETE FROM invitation WHERE id = ? AND project_id IS ?'),
      comments: db.prepare(`SELECT ${COMMENT} FROM comment WHERE project_id = ? ORDER BY created_at, id`),
      comment: db.prepare(`SELECT ${COMMENT} FROM comment WHERE project_id = ? AND id = ?`),
      commentCount: db.prepare('SELECT count(*) FROM comment WHERE project_id = ?').pluck(),
      addComment: db.prepare(
        'INSERT INTO comment (id, project_id, person, name, text, place, created_at) VALUES (?, ?, ?, ?, ?, ?, ?)',
      ),
      settle: db.prepare('UPDATE comment SET done_at = ?, done_by = ? WHERE project_id = ? AND id = ?'),
      dropComment: db.prepare('DELETE FROM comment WHERE project_id = ? AND id = ?'),
      note: db.prepare(
        'INSERT INTO audit (at, person, name, action, project, detail, address) VALUES (?, ?, ?, ?, ?, ?, ?)',
      ),
      trim: db.prepare('DELETE FROM audit WHERE id <= (SELECT max(id) FROM audit) - ?'),
      audit: db.prepare(
        'SELECT id, at, person, name, action, project, detail, address FROM audit ORDER BY id DESC LIMIT ?',
      ),
      auditAfter: db.prepare(
        'SELECT id, at, person, name, action, project, detail, address FROM audit WHERE id > ? ORDER BY id LIMIT 1000',
      ),
    };
  }

  /** @throws NotFound */
  person(id: string): Person {
    const found = personOf(this.q.person.get(id));
    if (!found) throw new NotFound('such person');
    return found;
  }
  /** All that ever were here, the server's owner first. */
  all(): Person[] {
    return this.q.all.all().map((row) => personOf(row)!);
  }
  /** Whoever has the server's token; made when first seen. */
  owner(): Person {
    if (!this.q.person.get(OWNER)) this.q.add.run(OWNER, 'Owner', 1, null, now());
    return this.person(OWNER);
  }
  byToken(token: string): Person | null {
    return personOf(this.q.byToken.get(hash(token)));
  }
  /** Whom a proxy in front of the server has let in under a name; made when first seen. @returns null for one whose access was ended. */
  byProxy(name: string): Person | null {
    const found = personOf(this.q.byProxy.get(name));
    if (found) return found.endedAt ? null : found;
    const id = randomUUID();
    this.q.add.run(id, name, 0, name, now());
    return this.person(id);
  }
  rename(id: string, name: string): Person {
    this.q.rename.run(name, id);
    return this.person(id);
  }
  /** A new token of a person's own, told once; the one before ends. */
  makeToken(id: string): string {
    const token = `vw-${secret()}`;
    this.q.setToken.run(hash(token), now(), id);
    return token;
  }
  withdrawToken(id: string): void {
    this.q.setToken.run(null, null, id);
  }
  /** Ends a person's access; the name stays on what they did. @throws InvalidInput for the server's owner. */
  end(id: string): void {
    if (this.person(id).keeper)
      throw new InvalidInput('owner', 'The server’s owner cannot be removed.', 'Change VELDTWIND_TOKEN instead.');
    writing(this.db, () => {
      this.q.end.run(now(), id);
      this.q.endSessions.run(id);
      this.q.dropRoles.run(id);
    });
  }

  roleOf(project: string, person: string): Role | null {
    return (this.q.roleOf.get(project, person) as Role | undefined) ?? null;
  }
  rolesOf(person: string): Record<string, Role> {
    const rows = this.q.rolesOf.all(person) as { project: string; role: Role }[];
    return Object.fromEntries(rows.map((r) => [r.project, r.role]));
  }
  team(project: string): TeamMember[] {
    return this.q.team.all(project) as TeamMember[];
  }
  setRole(project: string, person: string, role: Role): void {
    if (this.person(person).endedAt) throw new InvalidInput('ended', 'The access of this person was ended.');
    this.q.setRole.run(project, person, role);
  }
  dropRole(project: string, person: string): void {
    this.q.dropRole.run(project, person);
  }

  /** @returns the session's secret, told once, for the cookie. */
  startSession(person: string, agent: string, address: string): string {
    const key = secret();
    this.q.oldSessions.run(new Date(Date.now() - UNUSED * DAY).toISOString());
    this.q.addSession.run(randomUUID(), person, hash(key), agent.slice(0, 200), address.slice(0, 64), now(), now());
    this.q.surplus.run({ person, most: MOST_SESSIONS });
    return key;
  }
  bySession(key: string, address: string): { person: Person; session: string } | null {
    const since = new Date(Date.now() - UNUSED * DAY).toISOString();
    const row = this.q.bySession.get(hash(key), since) as
      { session: string; usedAt: string; person: string } | undefined;
    if (!row) return null;
    const person = this.person(row.person);
    if (person.endedAt) return null;
    if (Date.now() - Date.parse(row.usedAt) > USE_STEP) this.q.useSession.run(now(), address.slice(0, 64), row.session);
    return { person, session: row.session };
  }
  sessions(person: string): SessionRow[] {
    return this.q.sessions.all(person) as SessionRow[];
  }
  /** @throws NotFound */
  endSession(person: string, session: string): void {
    if (this.q.endSession.run(person, session).changes === 0) throw new NotFound('such session');
  }
  endSessions(person: string): void {
    this.q.endSessions.run(person);
  }

  /** An invitation, with its code, told once. @param project null: to the server, without a project. @throws InvalidInput `invitations` */
  invite(
    by: string,
    project: string | null,
    role: Role | null,
    note: string,
  ): { invitation: Invitation; code: string } {
    if ((this.q.openOnes.get(now()) as number) >= MOST_INVITATIONS)
      throw new InvalidInput('invitations', `${MOST_INVITATIONS} invitations are open.`, 'Withdraw some first.');
    const code = secret();
    const id = randomUUID();
    const until = new Date(Date.now() + INVITED * DAY).toISOString();
    this.q.invite.run(id, hash(code), project, role, note, by, now(), until);
    return { invitation: this.invitations(project).find((i) => i.id === id)!, code };
  }
  invitations(project: string | null): Invitation[] {
    return this.q.invitations.all(project) as Invitation[];
  }
  /** @throws NotFound */
  withdrawInvitation(id: string, project: string | null): void {
    if (this.q.dropInvitation.run(id, project).changes === 0) throw new NotFound('such invitation');
  }
  /**
   * Takes up an invitation, once.
   * @param as who is signed in already; else a person of that name is made.
   * @throws InvalidInput `invitation` for a code that is unknown, used or too old; `name` where one is needed.
   */
  join(code: string, as: Person | null, name?: string): { person: Person; project: string | null } {
    return writing(this.db, () => {
      const found = this.q.byCode.get(hash(code)) as Invitation | undefined;
      const refuse = (why: string): never => {
        throw new InvalidInput('invitation', why, 'Ask for a new one.', 'code');
      };
      if (!found) return refuse('There is no such invitation.');
      if (found.usedAt) return refuse('This invitation was used already.');
      if (found.expiresAt < now()) return refuse(`This invitation has expired: it held for ${INVITED} days.`);
      let person = as;
      if (!person) {
        if (!name) throw new InvalidInput('name', 'A name is missing.', 'Give the name that others will see.', 'name');
        const id = randomUUID();
        this.q.add.run(id, name, 0, null, now());
        person = this.person(id);
      }
      this.q.useCode.run(person.id, now(), found.id);
      if (found.project && found.role && !person.keeper) {
        const ranks: Role[] = ['read', 'comment', 'edit', 'own'];
        const has = this.roleOf(found.project, person.id);
        if (!has || ranks.indexOf(has) < ranks.indexOf(found.role)) this.setRole(found.project, person.id, found.role);
      }
      return { person, project: found.project };
    });
  }

  comments(project: string): Comment[] {
    return this.q.comments.all(project) as Comment[];
  }
  /** @throws NotFound */
  comment(project: string, id: string): Comment {
    const found = this.q.comment.get(project, id) as Comment | undefined;
    if (!found) throw new NotFound('such comment');
    return found;
  }
  /** @throws InvalidInput `comments` where there are as many as there may be. */
  addComment(project: string, by: { id: string | null; name: string } | null, text: string, place: string): Comment {
    if ((this.q.commentCount.get(project) as number) >= MOST_COMMENTS)
      throw new InvalidInput('comments', `A project holds at most ${MOST_COMMENTS} comments.`, 'Remove some first.');
    const id = randomUUID();
    this.q.addComment.run(id, project, by?.id ?? null, by?.name ?? '', text, place, now());
    return this.comment(project, id);
  }
  /** A comment as it stands in a project's file; beyond the bound it is left out. */
  readComment(project: string, c: Omit<Comment, 'id' | 'person'>): void {
    if ((this.q.commentCount.get(project) as number) >= MOST_COMMENTS) return;
    const id = randomUUID();
    this.q.addComment.run(id, project, null, c.name, c.text, c.place, c.createdAt);
    if (c.doneAt) this.q.settle.run(c.doneAt, c.doneBy, project, id);
  }
  /** Marks a comment as done, or as open again. */
  settleComment(project: string, id: string, done: boolean, by: string): Comment {
    this.comment(project, id);
    this.q.settle.run(done ? now() : null, done ? by : null, project, id);
    return this.comment(project, id);
  }
  removeComment(project: string, id: string): void {
    this.q.dropComment.run(project, id);
  }

  /** Writes down what somebody did. */
  note(
    by: Pick<Person, 'id' | 'name'> | null,
    action: string,
    more: { project?: string; detail?: string; address?: string } = {},
  ): void {
    const { project = null, detail = '', address = '' } = more;
    const { lastInsertRowid } = this.q.note.run(
      now(),
      by?.id ?? null,
      by?.name ?? '',
      action,
      project,
      detail.slice(0, 300),
      address,
    );
    if (Number(lastInsertRowid) % 1000 === 0) this.q.trim.run(MOST_AUDIT);
  }
  /** Newest first. */
  audit(most: number): AuditRow[] {
    return this.q.audit.all(most) as AuditRow[];
  }
  /** Oldest first, page by page: others write meanwhile. */
  *auditPages(): Generator<AuditRow[]> {
    for (let last = 0; ;) {
      const page = this.q.auditAfter.all(last) as AuditRow[];
      if (page.length === 0) return;
      yield page;
      last = page.at(-1)!.id;
    }
  }
}
