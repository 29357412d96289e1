package org.sobercompass.sources.database;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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
import org.sobercompass.core.system.database.DatabaseRights;

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

  /** The items of each object that was named: as they are, and as they become. */
  private final Map<Integer, List<AclItem>> before = new LinkedHashMap<>();

  private final Map<Integer, List<AclItem>> after = new LinkedHashMap<>();
  private String role = "";

  SqlStatements(AccessModel model, SystemView view, Consumer<Step> into) {
    this.view = view;
    this.objects = ((DatabaseAccess) view.system()).facts();
    this.facts = model.facts();
    this.into = into;
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

  /** One right, and the columns that it is for. */
  private record Right(String name, List<String> columns) {}

  private void change(SqlWords words, boolean grants, boolean optionOnly) {
    List<Right> rights = rights(words);
    if (!words.passes("on")) {
      member(rights, words, grants);
      return;
    }
    List<Integer> on = objects(words);
    if (!words.passes(grants ? "to" : "from")) {
      throw new IllegalArgumentException("it is not said " + (grants ? "to" : "from") + " whom");
    }
    List<String> whom = whom(words);
    boolean option = grants && words.passes("with", "grant", "option");
    String by = words.passes("granted", "by") ? words.next() : role;
    if (!words.isEnd() && !words.passes("restrict")) {
      throw new IllegalArgumentException("the word " + words.next() + " after that");
    }
    for (int object : on) {
      for (Right right : rights) {
        for (int at : columns(object, right)) {
          String grantor = by.isEmpty() || by.equals("current_user") ? owner(at) : by;
          for (String grantee : whom) {
            AclItem item = new AclItem(grantee, mask(at, right), grantor);
            one(at, item, grants, option, optionOnly);
          }
        }
      }
    }
  }

  private static List<Right> rights(SqlWords words) {
    List<Right> rights = new ArrayList<>();
    do {
      String name = words.next();
      List<String> columns = new ArrayList<>();
      if (words.passes("(")) {
        do {
          columns.add(words.next());
        } while (words.passes(","));
        words.passes(")");
      }
      rights.add(new Right(name, columns));
    } while (words.passes(","));
    words.passes("privileges");
    return rights;
  }

  private static List<String> whom(SqlWords words) {
    List<String> whom = new ArrayList<>();
    do {
      words.passes("group");
      whom.add(words.passes("public") ? "" : words.next());
    } while (words.passes(","));
    return whom;
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
  private List<Integer> columns(int object, Right right) {
    return right.columns.isEmpty()
        ? List.of(object)
        : right.columns.stream().map(column -> below(object, column)).toList();
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

  private long mask(int object, Right right) {
    if (right.name.equals("all")) {
      return objects.item(object).kind().rights() & plain();
    }
    String wanted = right.name.equals("temp") ? "temporary" : right.name;
    for (char letter : DatabaseRights.LETTERS.toCharArray()) {
      if (DatabaseRights.name(letter).equals(wanted)) {
        boolean fits = (objects.item(object).kind().rights() & DatabaseRights.bit(letter)) != 0;
        if (fits) {
          return DatabaseRights.bit(letter);
        }
      }
    }
    throw new IllegalArgumentException(
        "there is no right " + right.name + " on a " + objects.item(object).kind().word());
  }

  private static long plain() {
    long mask = 0;
    for (char letter : DatabaseRights.LETTERS.toCharArray()) {
      mask |= DatabaseRights.bit(letter);
    }
    return mask;
  }

  private static long options(long mask) {
    long options = 0;
    for (char letter : DatabaseRights.LETTERS.toCharArray()) {
      options |= (mask & DatabaseRights.bit(letter)) != 0 ? DatabaseRights.option(letter) : 0;
    }
    return options;
  }

  /** What one right does to the item of who gave it and who gets it. */
  private void one(int object, AclItem item, boolean grants, boolean option, boolean optionOnly) {
    List<AclItem> items = after.computeIfAbsent(object, r -> new ArrayList<>(items(r)));
    before.putIfAbsent(object, items(object));
    AclItem was =
        items.stream()
            .filter(i -> i.grantee().equals(item.grantee()) && i.grantor().equals(item.grantor()))
            .findFirst()
            .orElse(new AclItem(item.grantee(), 0, item.grantor()));
    long mask = was.mask();
    if (grants) {
      mask |= item.mask() | (option ? options(item.mask()) : 0);
    } else {
      mask &= ~options(item.mask()) & ~(optionOnly ? 0 : item.mask());
    }
    if (mask == was.mask()) {
      // It is so already; whoever binds it says so.
      String at = objects.tree().id(object);
      AclItem idle = grants ? was : item;
      into.accept(new Step.ListItem(view.id(), at, idle.text(), grants));
      return;
    }
    int at = items.indexOf(was);
    if (at >= 0) {
      items.remove(at);
    }
    if (mask != 0) {
      items.add(new AclItem(item.grantee(), mask, item.grantor()));
    }
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
  private void member(List<Right> roles, SqlWords words, boolean grants) {
    if (!words.passes(grants ? "to" : "from")) {
      throw new IllegalArgumentException("it is not said on what");
    }
    for (String member : whom(words)) {
      for (Right one : roles) {
        Key group = group(one.name);
        into.accept(
            grants ? new Step.Join(group(member), group) : new Step.Leave(group(member), group));
      }
    }
    if (!words.isEnd()) {
      throw new IllegalArgumentException("the word " + words.next() + " after that");
    }
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
    after.forEach(
        (object, items) -> {
          String at = objects.tree().id(object);
          List<AclItem> were = before.getOrDefault(object, List.of());
          were.stream()
              .filter(item -> !items.contains(item))
              .forEach(item -> into.accept(new Step.ListItem(view.id(), at, item.text(), false)));
          items.stream()
              .filter(item -> !were.contains(item))
              .forEach(item -> into.accept(new Step.ListItem(view.id(), at, item.text(), true)));
        });
  }
}
