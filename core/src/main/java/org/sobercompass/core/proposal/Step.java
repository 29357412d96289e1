package org.sobercompass.core.proposal;

import java.time.Instant;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;

/**
 * One proposed change, by stable keys, with what is needed to undo it. Immutable. What is done with
 * it is said for each kind, so that a new one cannot be forgotten anywhere.
 */
public sealed interface Step {
  /** Does what fits. */
  <T> T in(Cases<T> cases);

  /** The step that takes this one back. */
  Step inverse();

  /** A step that changes one entry of a directory. */
  sealed interface OfDirectory extends Step {
    /** The account or group whose entry it is. */
    Key entry();
  }

  /** What is done with each kind of step. */
  interface Cases<T> {
    /** A member is put into a group. */
    T join(Join step);

    /** A member is taken out of a group. */
    T leave(Leave step);

    /** A role is given. */
    T assign(Assign step);

    /** A role is withdrawn. */
    T withdraw(Withdraw step);

    /** A line of a scope is added or taken out. */
    T line(Line step);

    /** An entry of a list is removed or put back. */
    T entry(Entry step);

    /** An account is disabled or enabled. */
    T account(Disable step);

    /** An account ends at another time. */
    T ends(Ends step);

    /** An account may sign in from other hosts. */
    T hosts(Hosts step);

    /** An account has another primary group. */
    T primary(Primary step);

    /** An account or group is created or deleted. */
    T presence(Presence step);

    /** A line of a register is added or taken out. */
    T register(Register step);

    /** A role is written otherwise. */
    T role(Role step);

    /** A setting of a system is written otherwise. */
    T setting(Setting step);

    /** An entry, as its system writes it, is added to a list or taken out of it. */
    T item(ListItem step);
  }

  /** An account or group is put into a group. */
  record Join(Key member, Key group) implements OfDirectory {
    @Override
    public Key entry() {
      return group;
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.join(this);
    }

    @Override
    public Step inverse() {
      return new Leave(member, group);
    }
  }

  /** An account or group is taken out of a group that lists it. */
  record Leave(Key member, Key group) implements OfDirectory {
    @Override
    public Key entry() {
      return group;
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.leave(this);
    }

    @Override
    public Step inverse() {
      return new Join(member, group);
    }
  }

  /** A role is given. */
  record Assign(Assignment what) implements Step {
    @Override
    public <T> T in(Cases<T> cases) {
      return cases.assign(this);
    }

    @Override
    public Step inverse() {
      return new Withdraw(what);
    }
  }

  /** A role that was given is withdrawn. */
  record Withdraw(Assignment what) implements Step {
    @Override
    public <T> T in(Cases<T> cases) {
      return cases.withdraw(this);
    }

    @Override
    public Step inverse() {
      return new Assign(what);
    }
  }

  /**
   * A line of an admin scope that names a subject is added or taken out.
   *
   * @param scope the id of the scope
   * @param excepted whether the line excepts the subject; else it includes it
   * @param subject an account, group or unit
   * @param groups what a group stands for: object, members or both; empty for others
   * @param added whether the line is added; else it is taken out
   */
  record Line(String scope, boolean excepted, Key subject, String groups, boolean added)
      implements Step {
    @Override
    public <T> T in(Cases<T> cases) {
      return cases.line(this);
    }

    @Override
    public Step inverse() {
      return new Line(scope, excepted, subject, groups, !added);
    }
  }

  /**
   * An entry of a list is removed, with what it hands on, or put back.
   *
   * @param system the id of the system
   * @param entry the id of the entry, unique in the system
   * @param words what it is, for people
   * @param removed whether it is removed; else it is put back
   */
  record Entry(String system, String entry, String words, boolean removed) implements Step {
    @Override
    public <T> T in(Cases<T> cases) {
      return cases.entry(this);
    }

    @Override
    public Step inverse() {
      return new Entry(system, entry, words, !removed);
    }
  }

  /** An account is disabled, or enabled. */
  record Disable(Key account, boolean disabled) implements OfDirectory {
    @Override
    public Key entry() {
      return account;
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.account(this);
    }

    @Override
    public Step inverse() {
      return new Disable(account, !disabled);
    }
  }

  /**
   * An account ends at another time.
   *
   * @param was when it ended before, or empty
   * @param is when it ends then, or empty
   */
  record Ends(Key account, Optional<Instant> was, Optional<Instant> is) implements OfDirectory {
    /**
     * That an account ends at another time than it does.
     *
     * @param at epoch second, or {@link Facts#NEVER}
     */
    public static Ends of(Facts facts, int account, long at) {
      return new Ends(facts.key(account), moment(facts.expires(account)), moment(at));
    }

    private static Optional<Instant> moment(long at) {
      return at == Facts.NEVER ? Optional.empty() : Optional.of(Instant.ofEpochSecond(at));
    }

    @Override
    public Key entry() {
      return account;
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.ends(this);
    }

    @Override
    public Step inverse() {
      return new Ends(account, is, was);
    }
  }

  /**
   * An account may sign in from other hosts.
   *
   * @param was from which it might before; none for all
   * @param is from which it may then; none for all
   */
  record Hosts(Key account, List<String> was, List<String> is) implements OfDirectory {
    /** Copies. */
    public Hosts {
      was = List.copyOf(was);
      is = List.copyOf(is);
    }

    @Override
    public Key entry() {
      return account;
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.hosts(this);
    }

    @Override
    public Step inverse() {
      return new Hosts(account, is, was);
    }
  }

  /**
   * An account has another primary group.
   *
   * @param was the one that it had, or empty
   * @param is the one that it is to have, or empty
   */
  record Primary(Key account, Optional<Key> was, Optional<Key> is) implements OfDirectory {
    /** That an account has this group in place of the one that it has. */
    public static Primary of(AccessModel model, int account, int group) {
      Facts facts = model.facts();
      return new Primary(
          facts.key(account),
          SubjectSteps.primaryOf(model, account).map(facts::key),
          Optional.of(facts.key(group)));
    }

    @Override
    public Key entry() {
      return account;
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.primary(this);
    }

    @Override
    public Step inverse() {
      return new Primary(account, is, was);
    }
  }

  /**
   * An account or group is created in its directory, or deleted from it.
   *
   * @param subject its key: by its DN as long as the directory has not given it an id
   * @param dn its name in the directory, as written
   * @param attributes its attributes, in order, each with its values; of what is deleted they may
   *     be missing, since they are read where it stands. Members are put in by steps of their own
   * @param created whether it is created; else it is deleted
   */
  record Presence(Key subject, String dn, Map<String, List<String>> attributes, boolean created)
      implements OfDirectory {
    /** Copies. */
    public Presence {
      Map<String, List<String>> copy = new LinkedHashMap<>();
      attributes.forEach((name, values) -> copy.put(name, List.copyOf(values)));
      attributes = Collections.unmodifiableMap(copy);
    }

    @Override
    public Key entry() {
      return subject;
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.presence(this);
    }

    @Override
    public Step inverse() {
      return new Presence(subject, dn, attributes, !created);
    }
  }

  /**
   * A line of an application's register is added or taken out.
   *
   * @param application the id of the application
   * @param subject an account or group
   * @param signIn the kind of sign-in, or empty
   * @param active whether it may be used
   * @param secondFactor whether a second factor is registered
   * @param at where in the application, or empty
   * @param added whether the line is added; else it is taken out
   */
  record Register(
      String application,
      Key subject,
      String signIn,
      boolean active,
      boolean secondFactor,
      String at,
      boolean added)
      implements Step {
    @Override
    public <T> T in(Cases<T> cases) {
      return cases.register(this);
    }

    @Override
    public Step inverse() {
      return new Register(application, subject, signIn, active, secondFactor, at, !added);
    }
  }

  /**
   * What a role allows in an area, or which roles it includes, is written otherwise.
   *
   * @param application the id of the application
   * @param role the id of the role
   * @param area the area; empty when it is about the roles that are included
   * @param was what was written there: a level and actions, or ids of roles; nothing for no entry
   * @param is what is to be written there
   */
  record Role(String application, String role, String area, List<String> was, List<String> is)
      implements Step {
    /** Copies. */
    public Role {
      was = List.copyOf(was);
      is = List.copyOf(is);
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.role(this);
    }

    @Override
    public Step inverse() {
      return new Role(application, role, area, is, was);
    }
  }

  /**
   * What the file of a system says somewhere is written otherwise: what an application sees of a
   * directory, how it lets people sign in, a role that is new or deleted, the rules of a scope.
   *
   * @param system the id of the application, or of the system of admin roles
   * @param path the keys from the top of the file
   * @param was what stood there, as YAML in one line; empty for nothing
   * @param is what is to stand there; empty for nothing
   */
  record Setting(String system, List<String> path, String was, String is) implements Step {
    /** Copies. */
    public Setting {
      path = List.copyOf(path);
    }

    @Override
    public <T> T in(Cases<T> cases) {
      return cases.setting(this);
    }

    @Override
    public Step inverse() {
      return new Setting(system, path, is, was);
    }
  }

  /**
   * An entry, as its system writes it, is added to the list of a resource or taken out of it.
   *
   * @param system the id of the system
   * @param at the id of the resource
   * @param text the entry; of a database an item like {@code observers=r/owner}
   * @param added whether it is added; else it is taken out
   */
  record ListItem(String system, String at, String text, boolean added) implements Step {
    @Override
    public <T> T in(Cases<T> cases) {
      return cases.item(this);
    }

    @Override
    public Step inverse() {
      return new ListItem(system, at, text, !added);
    }
  }

  /**
   * A role of an application given to a subject at a node; or an admin role over a scope.
   *
   * @param application the id of the application, or of the system of admin roles
   * @param role the id of the role
   * @param subject an account, group, unit or implicit group
   * @param node the id of the node; of an admin role the scope, or {@code everything}
   * @param below whether it also counts below the node
   * @param from when it begins, or empty
   * @param until before when it counts, or empty
   * @param on whether it counts; one that is switched off is only kept
   */
  record Assignment(
      String application,
      String role,
      Key subject,
      String node,
      boolean below,
      Optional<Instant> from,
      Optional<Instant> until,
      boolean on) {
    /** One that is switched on. */
    public Assignment(
        String application,
        String role,
        Key subject,
        String node,
        boolean below,
        Optional<Instant> from,
        Optional<Instant> until) {
      this(application, role, subject, node, below, from, until, true);
    }

    /** The same switched on, or off. */
    public Assignment switched(boolean isOn) {
      return new Assignment(application, role, subject, node, below, from, until, isOn);
    }

    /** The same for somebody else. */
    public Assignment to(Key other) {
      return new Assignment(application, role, other, node, below, from, until, on);
    }
  }
}
