import type { Response } from 'express';
import { holds, type Access, type Person, type Role } from '@veldtwind/contract';
import type { PeopleStore } from '@veldtwind/store/people';
import { NotFound } from '@veldtwind/store/projects';
import { HttpError } from '../http/errors';
import { personOf } from './identity';

const MAY: Record<Role, string> = {
  read: 'read this project',
  comment: 'read this project and comment on it',
  edit: 'change this project',
  own: 'do everything in this project',
};

/** Who may do what. Without names everybody may do everything. */
export class AccessRules {
  constructor(
    private readonly people: PeopleStore,
    readonly named: boolean,
  ) {}

  /** A person's role in a project; the server's owner owns all of them. */
  roleOf(project: string, person: Person | null): Role | null {
    if (!this.named || person?.keeper) return 'own';
    return person ? this.people.roleOf(project, person.id) : null;
  }

  mayRead(project: string, person: Person | null): boolean {
    return holds(this.roleOf(project, person), 'read');
  }

  /** @throws HttpError 401, 403; NotFound for a project that one does not know of. */
  check(needs: Access, project: string | undefined, res: Pick<Response, 'locals'>): void {
    if (!this.named || needs === 'anybody') return;
    const person = personOf(res);
    if (!person)
      throw new HttpError(
        401,
        'token-needed',
        'This server asks who you are.',
        'Sign in, or send your token as a bearer token.',
      );
    if (needs === 'signed-in' || person.keeper) return;
    if (needs === 'server') throw new HttpError(403, 'not-yours', 'Only the server’s owner may do this.');
    const has = this.roleOf(project ?? '', person);
    if (!has) throw new NotFound('such project');
    if (!holds(has, needs)) {
      const owner = this.people.team(project ?? '').find((p) => p.role === 'own')?.name ?? 'the server’s owner';
      throw new HttpError(
        403,
        'role',
        `You may ${MAY[has]}, not ${MAY[needs].replace(' this project', ' it')}.`,
        `Ask ${owner} for more.`,
      );
    }
  }
}
