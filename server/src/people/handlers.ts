import { TAB_HEADER, tabName, type Role } from '@veldtwind/contract';
import { tableText } from '@veldtwind/core/spreadsheet';
import type { PeopleStore } from '@veldtwind/store/people';
import type { ProjectStore } from '@veldtwind/store/projects';
import { HttpError } from '../http/errors';
import type { EventHub } from '../http/events';
import { Download, type Asked, type Handlers } from '../routes/router';
import type { AccessRules } from './access';
import { addressOf, askingOf, personOf, type Identities } from './identity';
import { Presence } from './presence';

export interface PeopleParts {
  people: PeopleStore;
  projects: ProjectStore;
  events: EventHub;
  access: AccessRules;
  identities: Identities;
}

type PeopleRoutes =
  | 'me'
  | 'renameMe'
  | 'signIn'
  | 'signOut'
  | 'join'
  | 'makeToken'
  | 'withdrawToken'
  | 'sessions'
  | 'endSession'
  | 'listPeople'
  | 'endPerson'
  | 'endTheirSession'
  | 'endTheirToken'
  | 'inviteToServer'
  | 'withdrawServerInvitation'
  | 'team'
  | 'setRole'
  | 'dropRole'
  | 'invite'
  | 'withdrawInvitation'
  | 'presence'
  | 'comments'
  | 'addComment'
  | 'settleComment'
  | 'removeComment'
  | 'audit'
  | 'auditFile';

/** Lines of the audit log as CSV, page by page. */
async function* auditText(people: PeopleStore): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  const columns = ['at', 'person', 'name', 'action', 'project', 'detail', 'address'] as const;
  yield encoder.encode(`${tableText([[...columns]])}\n`);
  for (const page of people.auditPages()) {
    yield encoder.encode(`${tableText(page.map((row) => columns.map((c) => row[c] ?? '')))}\n`);
    await new Promise((go) => setImmediate(go));
  }
}

/** What the routes of people do. */
export function peopleHandlers(p: PeopleParts): Pick<Handlers, PeopleRoutes> {
  const { people, projects, events, access, identities } = p;
  const presence = new Presence((project, there) => events.send(project, 'people', { people: there }));
  const named = () => {
    if (!access.named)
      throw new HttpError(
        409,
        'no-names',
        'This server knows nobody by name.',
        'Start it with VELDTWIND_TOKEN, and people can be invited.',
      );
  };
  const note = (asked: Pick<Asked<'me'>, 'req' | 'res'>, action: string, project?: string, detail?: string) =>
    people.note(personOf(asked.res), action, { project, detail, address: addressOf(asked.req) });
  const self = (asked: Pick<Asked<'me'>, 'res'>) => {
    named();
    const person = personOf(asked.res);
    if (!person) throw new HttpError(401, 'token-needed', 'This server asks who you are.', 'Sign in.');
    return person;
  };
  const lettingGo = (person: string) => {
    events.drop(person);
    presence.drop(person);
  };
  const invite = (
    asked: Pick<Asked<'me'>, 'req' | 'res'>,
    project: string | null,
    role: Role | null,
    words: string,
  ) => {
    const by = self(asked);
    const { invitation, code } = people.invite(by.id, project, role, words);
    note(
      asked,
      'invited',
      project ?? undefined,
      [role ? `${role}, ${projects.row(project!).name}` : 'to the server', words].filter(Boolean).join('; '),
    );
    return { ...invitation, code, link: `/join#${code}` };
  };
  const toldComments = (project: string) => {
    const comments = people.comments(project);
    events.send(project, 'comments', { comments });
    return comments;
  };
  /** A project keeps an owner, if only the server's. */
  const rolesChanged = (project: string) => {
    events.send(project, 'roles', {});
    return { people: people.team(project) };
  };

  return {
    me: ({ res }) => {
      const { person, session } = askingOf(res);
      return { named: access.named, person, session, roles: person ? people.rolesOf(person.id) : {} };
    },
    renameMe: (asked) => {
      const made = people.rename(self(asked).id, asked.body.name);
      note(asked, 'renamed', undefined, made.name);
      return made;
    },
    signIn: (asked) => {
      named();
      const person = identities.ofToken(asked.body.token);
      if (!person) {
        note(asked, 'sign-in refused');
        throw new HttpError(
          401,
          'token-wrong',
          'Nobody has this token.',
          'Look for blanks at its ends; ask its owner.',
        );
      }
      identities.begin(person, asked.req, asked.res);
      people.note(person, 'signed in', { address: addressOf(asked.req) });
      return person;
    },
    signOut: (asked) => {
      const { person, session } = askingOf(asked.res);
      if (person && session) people.endSession(person.id, session);
      identities.end(asked.res);
      note(asked, 'signed out');
    },
    join: (asked) => {
      named();
      const before = personOf(asked.res);
      const joined = people.join(asked.body.code, before, asked.body.name);
      if (!before) identities.begin(joined.person, asked.req, asked.res);
      people.note(joined.person, 'joined', { project: joined.project ?? undefined, address: addressOf(asked.req) });
      if (joined.project) rolesChanged(joined.project);
      return joined;
    },
    makeToken: (asked) => {
      const { id, keeper } = self(asked);
      if (keeper)
        throw new HttpError(
          409,
          'owner',
          'The server’s owner has the server’s token.',
          'It is set by VELDTWIND_TOKEN.',
        );
      const token = people.makeToken(id);
      note(asked, 'token made');
      return { token };
    },
    withdrawToken: (asked) => {
      people.withdrawToken(self(asked).id);
      note(asked, 'token withdrawn');
    },
    sessions: (asked) => ({ sessions: people.sessions(self(asked).id) }),
    endSession: (asked) => {
      const { id } = self(asked);
      people.endSession(id, asked.params.session);
      events.drop(id);
      note(asked, 'session ended');
    },
    listPeople: () => ({
      people: people.all().map((one) => ({ ...one, roles: people.rolesOf(one.id), sessions: people.sessions(one.id) })),
      invitations: people.invitations(null),
    }),
    endPerson: (asked) => {
      const { name } = people.person(asked.params.person);
      people.end(asked.params.person);
      lettingGo(asked.params.person);
      note(asked, 'access ended', undefined, name);
    },
    endTheirSession: (asked) => {
      people.endSession(asked.params.person, asked.params.session);
      lettingGo(asked.params.person);
      note(asked, 'session ended', undefined, people.person(asked.params.person).name);
    },
    endTheirToken: (asked) => {
      const { name } = people.person(asked.params.person);
      people.withdrawToken(asked.params.person);
      note(asked, 'token withdrawn', undefined, name);
    },
    inviteToServer: (asked) => invite(asked, null, null, asked.body.note),
    withdrawServerInvitation: (asked) => {
      people.withdrawInvitation(asked.params.invitation, null);
      note(asked, 'invitation withdrawn');
    },
    team: ({ params, res }) => {
      projects.row(params.id);
      const owns = access.roleOf(params.id, personOf(res)) === 'own';
      return { people: people.team(params.id), invitations: owns ? people.invitations(params.id) : [] };
    },
    setRole: (asked) => {
      const { id, person } = asked.params;
      named();
      projects.row(id);
      people.setRole(id, person, asked.body.role);
      note(asked, 'role', id, `${people.person(person).name}: ${asked.body.role}`);
      return rolesChanged(id);
    },
    dropRole: (asked) => {
      const { id, person } = asked.params;
      if (person !== self(asked).id) access.check('own', id, asked.res);
      people.dropRole(id, person);
      events.drop(person);
      note(asked, 'role', id, `${people.person(person).name}: none`);
      rolesChanged(id);
    },
    invite: (asked) => {
      projects.row(asked.params.id);
      return invite(asked, asked.params.id, asked.body.role ?? 'edit', asked.body.note);
    },
    withdrawInvitation: (asked) => {
      people.withdrawInvitation(asked.params.invitation, asked.params.id);
      note(asked, 'invitation withdrawn', asked.params.id);
    },
    presence: ({ params, body, req, res }) => {
      const person = personOf(res);
      const tab = tabName.safeParse(req.get(TAB_HEADER) ?? '');
      projects.row(params.id);
      if (!person || !tab.success || tab.data === '') return { people: [] };
      if (body.gone) {
        presence.gone(params.id, tab.data);
        return { people: [] };
      }
      const { place, label, handle } = body;
      const there = presence.here(params.id, {
        person: person.id,
        name: person.name,
        tab: tab.data,
        place,
        label,
        handle,
      });
      return { people: there };
    },
    comments: ({ params }) => {
      projects.row(params.id);
      return { comments: people.comments(params.id) };
    },
    addComment: ({ params, body, res }) => {
      projects.row(params.id);
      const made = people.addComment(params.id, personOf(res), body.text, body.place);
      toldComments(params.id);
      return made;
    },
    settleComment: ({ params, body, res }) => {
      const made = people.settleComment(params.id, params.comment, body.done, personOf(res)?.name ?? '');
      toldComments(params.id);
      return made;
    },
    removeComment: ({ params, res }) => {
      const { person } = people.comment(params.id, params.comment);
      if (person !== (personOf(res)?.id ?? null)) access.check('own', params.id, res);
      people.removeComment(params.id, params.comment);
      toldComments(params.id);
    },
    audit: ({ query }) => ({ entries: people.audit(query.most) }),
    auditFile: () => new Download('audit.csv', auditText(people)),
  };
}
