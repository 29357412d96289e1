package org.sobercompass.sources.database;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.database.AclItem;
import org.sobercompass.core.system.database.DatabaseAccess;
import org.sobercompass.core.system.database.DatabaseFacts;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;

/**
 * Grants and revokes (PostgreSQL 15 documentation, GRANT and REVOKE) one after the other, as what
 * they make of the items of each object: who gave and who gets make one item. Use once.
 */
final class SqlStatements {
  /** What is said around grants, and changes none. */
  private static final Set<String> AROUND =
      Set.of("begin", "commit", "start", "do", "select", "reset");

  private final SystemView view;
  private final DatabaseFacts objects;
  private final Facts facts;
  private final Consumer<Step> into;

  private final SqlItems<Integer> given = new SqlItems<>(this::items);
  private final SqlDefaults defaults;
  private String role = "";

  SqlStatements(AccessModel model, SystemView view, Consumer<Step> into) {
    this.view = view;
    this.objects = ((DatabaseAccess) view.system()).facts();
    this.facts = model.facts();
    this.into = into;
    this.defaults = new SqlDefaults(objects, way -> object(way), this::step);
  }

  void take(SqlWords words) {
    boolean grants = words.passes("grant");
    if (grants || words.passes("revoke")) {
      boolean optionOnly = !grants && words.passes("grant", "option", "for");
      boolean adminOnly = !grants && words.passes("admin", "option", "for");
      if (adminOnly) {
        throw new IllegalArgumentException("an option of a role is not read yet");
      }
      change(words, grants, optionOnly);
    } else if (words.passes("alter", "default", "privileges")) {
      defaults.take(words, role);
    } else if (words.passes("set")) {
      session(words);
    } else if (words.isEnd()) {
      return;
    } else {
      String first = words.next();
      if (!AROUND.contains(first)) {
        throw new IllegalArgumentException("a statement that begins with " + first);
      }
      role = first.equals("reset") ? "" : role;
    }
  }

  /** {@code set local role}, and what a dump says before grants of somebody else. */
  private void session(SqlWords words) {
    if (words.passes("local", "role") || words.passes("role")) {
      role = words.next();
    } else if (words.passes("session", "authorization")) {
      role = words.isNext("default") ? "" : words.next();
    }
  }

  private void change(SqlWords words, boolean grants, boolean optionOnly) {
    List<SqlRights> rights = SqlRights.all(words);
    if (!words.passes("on")) {
      member(rights, words, grants);
      return;
    }
    List<Integer> on = objects(words);
    if (!words.passes(grants ? "to" : "from")) {
      throw new IllegalArgumentException("it is not said " + (grants ? "to" : "from") + " whom");
    }
    List<String> whom = SqlRights.whom(words);
    boolean option = grants && words.passes("with", "grant", "option");
    SqlItems.Verb verb = new SqlItems.Verb(grants, option, optionOnly);
    String by = words.passes("granted", "by") ? words.next() : role;
    SqlRights.end(words);
    for (int object : on) {
      for (SqlRights right : rights) {
        for (int at : columns(object, right)) {
          String grantor = by.isEmpty() || by.equals("current_user") ? owner(at) : by;
          for (String grantee : whom) {
            AclItem item = new AclItem(grantee, mask(at, right), grantor);
            // What is so already, whoever binds it says.
            given.change(at, item, verb, (idle, is) -> step(at, idle.text(), is));
          }
        }
      }
    }
  }

  /** The objects that a statement names. */
  private List<Integer> objects(SqlWords words) {
    List<Integer> found = new ArrayList<>();
    if (words.passes("all")) {
      String kind = words.next();
      if (!words.passes("in", "schema")) {
        throw new IllegalArgumentException("all " + kind + " is not in schema");
      }
      int schema = object(List.of(words.next()));
      for (int r = schema + 1; r < objects.tree().end(schema); r++) {
        if (objects.tree().parent(r) == schema && kind.startsWith(word(objects.item(r).kind()))) {
          found.add(r);
        }
      }
      return found;
    }
    String kind =
        words.isNext("table", "sequence", "database", "schema", "function", "routine", "procedure")
            ? words.next()
            : "table";
    do {
      List<String> way = new ArrayList<>(words.name());
      if (Set.of("function", "routine", "procedure").contains(kind) && words.passes("(")) {
        way.set(way.size() - 1, way.get(way.size() - 1) + "(" + words.inBrackets() + ")");
      }
      found.add(kind.equals("database") ? object(List.of()) : object(way));
    } while (words.passes(","));
    return found;
  }

  /** What a right is for: the columns that it names, else the object. */
  private List<Integer> columns(int object, SqlRights right) {
    return right.columns().isEmpty()
        ? List.of(object)
        : right.columns().stream().map(column -> below(object, column)).toList();
  }

  private static String word(Kind kind) {
    return switch (kind) {
      case TABLE, VIEW -> "table";
      case FUNCTION -> "function";
      default -> kind.name().toLowerCase(Locale.ROOT);
    };
  }

  private int object(List<String> way) {
    int at = 0;
    while (at + 1 < objects.tree().size() && objects.item(at).kind() != Kind.DATABASE) {
      at++;
    }
    for (String step : way) {
      at = below(at, step);
    }
    return at;
  }

  private int below(int above, String step) {
    String id = objects.tree().id(above) + "/" + step.replace("\\", "\\134").replace("/", "\\057");
    Optional<Integer> found = objects.tree().find(id);
    return found.orElseThrow(
        () -> new IllegalArgumentException("there is no " + id + " in what was read"));
  }

  private String owner(int object) {
    return objects.trustees().text(objects.item(object).owner());
  }

  private long mask(int object, SqlRights right) {
    Kind kind = objects.item(object).kind();
    return right.mask(kind.rights(), kind.word());
  }

  private List<AclItem> items(int object) {
    List<AclItem> items = new ArrayList<>();
    for (DatabaseFacts.Given given : objects.item(object).given()) {
      boolean everybody = given.trustee() == Trustees.EVERYONE;
      String name = everybody ? "" : objects.trustees().text(given.trustee());
      items.add(new AclItem(name, given.mask(), given.by()));
    }
    return items;
  }

  /** Roles given to roles, or taken from them. */
  private void member(List<SqlRights> roles, SqlWords words, boolean grants) {
    if (!words.passes(grants ? "to" : "from")) {
      throw new IllegalArgumentException("it is not said on what");
    }
    for (String member : SqlRights.whom(words)) {
      for (SqlRights one : roles) {
        Key group = group(one.name());
        into.accept(
            grants ? new Step.Join(group(member), group) : new Step.Leave(group(member), group));
      }
    }
    SqlRights.end(words);
  }

  private Key group(String name) {
    for (int g = facts.firstGroup(); g < facts.firstGroup() + facts.groups(); g++) {
      boolean is =
          facts.login(g).equals(name)
              && facts.source(g).equals(view.system().sight().directory())
              && facts.kind(g) == SubjectKind.GROUP;
      if (is) {
        return facts.key(g);
      }
    }
    throw new IllegalArgumentException("there is no role " + name + " in what was read");
  }

  /** Hands on what differs in the end: items that go, then items that come. */
  void end() {
    given.differences((at, item, added) -> step(at, item.text(), added));
    defaults.end();
  }

  private void step(int at, String text, boolean added) {
    into.accept(new Step.ListItem(view.id(), objects.tree().id(at), text, added));
  }
}
