package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;
import org.sobercompass.core.system.database.DefaultPrivileges.Item;
import org.sobercompass.core.system.database.DefaultPrivileges.Made;

/**
 * Default privileges as items of a schema, or of the database for what is made in any schema. They
 * give nothing on what is there. Thread-safe.
 *
 * @param facts the database
 */
public record DatabaseDefaults(DatabaseFacts facts) {

  boolean has(int resource, String text) {
    return DefaultPrivileges.item(text)
        .filter(item -> now(resource, item.made(), item.item().grantor()).contains(item.item()))
        .isPresent();
  }

  /**
   * What a role gives on what it makes there. At the database, what is usual counts where nothing
   * else was said; at a schema, this comes on top of that.
   *
   * @param resource the number of a schema, or of the database
   */
  public List<AclItem> now(int resource, Made made, String maker) {
    return said(resource, made, maker)
        .map(DefaultPrivileges::items)
        .orElse(
            facts.item(resource).kind() == Kind.DATABASE
                ? DefaultPrivileges.usual(made, maker).items()
                : List.of());
  }

  private Optional<DefaultPrivileges> said(int resource, Made made, String maker) {
    return facts.defaults.getOrDefault(resource, List.of()).stream()
        .filter(one -> one.made() == made && one.maker().equals(maker))
        .findFirst();
  }

  /** What others than the maker get, by the subject that gets it. */
  void all(Map<Integer, List<ListWish.Edit>> into) {
    facts.defaults.forEach(
        (resource, all) -> {
          for (DefaultPrivileges one : all) {
            for (AclItem item : one.items()) {
              int trustee = facts.trustees().find(item.grantee());
              boolean other = !item.grantee().isEmpty() && !item.grantee().equals(one.maker());
              int subject = other && trustee >= 0 ? facts.trustees().subject(trustee) : -1;
              if (subject >= 0) {
                into.computeIfAbsent(subject, s -> new ArrayList<>())
                    .add(new ListWish.Edit(resource, new Item(one.made(), item).text(), true));
              }
            }
          }
        });
  }

  /** The same item for another role. */
  static String with(Item item, String role) {
    return new Item(item.made(), new AclItem(role, item.item().mask(), item.item().grantor()))
        .text();
  }

  /**
   * With one item more or less. What is left as usual is not kept, as the server does it.
   *
   * @param database its name, for people
   * @throws IllegalArgumentException when it cannot be
   */
  DatabaseFacts with(Redefinition.ListItem how, Item item, String database) {
    String maker = item.item().grantor();
    int resource = how.resource();
    check(resource, item, database);
    List<AclItem> items = new ArrayList<>(now(resource, item.made(), maker));
    if (!how.added()) {
      items.remove(item.item());
    } else if (items.stream().anyMatch(is -> is.grantee().equals(item.item().grantee()))) {
      throw new IllegalArgumentException(
          "default privileges of "
              + maker
              + " for "
              + (item.item().grantee().isEmpty() ? "everyone" : item.item().grantee())
              + " are there already; take that entry out in the same proposal");
    } else {
      items.add(item.item());
    }
    return with(resource, new DefaultPrivileges(item.made(), maker, items));
  }

  private void check(int resource, Item item, String database) {
    Kind kind = facts.item(resource).kind();
    if (kind != Kind.DATABASE && (kind != Kind.SCHEMA || item.made() == Made.SCHEMA)) {
      throw new IllegalArgumentException(
          "default privileges for a new "
              + item.made().word()
              + " stand at "
              + (item.made() == Made.SCHEMA ? "the database" : "a schema or the database"));
    }
    for (String role : List.of(item.item().grantor(), item.item().grantee())) {
      int trustee = role.isEmpty() ? Trustees.EVERYONE : facts.trustees().find(role);
      if (trustee < 0) {
        throw new IllegalArgumentException(
            "there is no role " + Problem.quote(role) + " in " + database);
      }
    }
    long rights = item.made().rights();
    if ((item.item().mask() & (DatabaseRights.OWN - 1) & ~(rights | options(rights))) != 0) {
      throw new IllegalArgumentException(
          "there is no "
              + DatabaseRights.words(item.item().mask())
              + " on a "
              + item.made().word());
    }
  }

  private static long options(long rights) {
    return rights << DatabaseRights.LETTERS.length();
  }

  private DatabaseFacts with(int resource, DefaultPrivileges next) {
    List<DefaultPrivileges> all = new ArrayList<>(facts.defaults.getOrDefault(resource, List.of()));
    Optional<DefaultPrivileges> was = said(resource, next.made(), next.maker());
    Set<AclItem> usual =
        facts.item(resource).kind() == Kind.DATABASE
            ? new HashSet<>(DefaultPrivileges.usual(next.made(), next.maker()).items())
            : Set.of();
    boolean kept = !usual.equals(new HashSet<>(next.items()));
    int at = was.map(all::indexOf).orElse(all.size());
    if (was.isPresent()) {
      all.remove(at);
    }
    if (kept) {
      all.add(at, next);
    }
    Map<Integer, List<DefaultPrivileges>> defaults = new HashMap<>(facts.defaults);
    defaults.put(resource, List.copyOf(all));
    return facts.defaulting(defaults);
  }
}
