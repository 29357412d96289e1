package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntFunction;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.database.DatabaseFacts.Item;
import org.sobercompass.core.system.database.DatabaseFacts.Kind;
import org.sobercompass.core.system.database.DatabaseFacts.Switch;

/** What is wrong in the grants and roles of a database. One cause is one remark. O(grants). */
final class DatabaseRemarks {
  private final DatabaseFacts facts;
  private final DatabaseGrants grants;
  private final IntFunction<SubjectSet> subjectsOf;

  DatabaseRemarks(DatabaseFacts facts, DatabaseGrants grants, IntFunction<SubjectSet> subjectsOf) {
    this.facts = facts;
    this.grants = grants;
    this.subjectsOf = subjectsOf;
  }

  List<Remark> all() {
    List<Remark> all = new ArrayList<>();
    open(all);
    unreachable(all);
    switches(all);
    serverFiles(all);
    creators(all);
    all.sort(
        Comparator.comparingInt(Remark::resource)
            .thenComparing(one -> (DatabaseRemarkKind) one.kind()));
    return List.copyOf(all);
  }

  private boolean isData(Kind kind) {
    return kind == Kind.TABLE || kind == Kind.VIEW || kind == Kind.SEQUENCE || kind == Kind.COLUMN;
  }

  /** Rights of PUBLIC beyond those that every database begins with. */
  private void open(List<Remark> all) {
    Map<Integer, List<Integer>> bySchema = new TreeMap<>();
    for (int r = 0; r < facts.items.length; r++) {
      Kind kind = facts.items[r].kind();
      long beyond = isData(kind) ? -1L : kind == Kind.SCHEMA ? DatabaseRights.bit('C') : 0;
      for (int g = grants.first(r); g < grants.end(r); g++) {
        if (grants.isEverybody(grants.trustee(g)) && (grants.mask(g) & beyond) != 0) {
          bySchema.computeIfAbsent(schema(r), s -> new ArrayList<>()).add(g);
        }
      }
    }
    bySchema.forEach(
        (schema, shown) ->
            all.add(
                remark(
                    DatabaseRemarkKind.PUBLIC_RIGHTS,
                    schema,
                    facts.tree.id(schema),
                    "every role of the database has rights in "
                        + facts.tree.id(schema)
                        + ": "
                        + first(shown),
                    shown,
                    shown.size() - 1,
                    "revoke them from PUBLIC, and grant them to the roles that need them")));
  }

  private String first(List<Integer> shown) {
    var grant = grants.all().get(shown.get(0));
    return grants.roles().get(grant.role()).name() + " on " + facts.tree.id(grant.resource());
  }

  private int schema(int resource) {
    int at = resource;
    while (at > 0 && facts.items[at].kind() != Kind.SCHEMA) {
      at = facts.tree.parent(at);
    }
    return at;
  }

  /** Rights on tables whose holders may not even use the schema. */
  private void unreachable(List<Remark> all) {
    Map<String, List<Integer>> byCause = new TreeMap<>();
    for (int r = 0; r < facts.items.length; r++) {
      Item item = facts.items[r];
      for (int g = grants.first(r) + 1; isData(item.kind()) && g < grants.end(r); g++) {
        int trustee = grants.trustee(g);
        boolean someone = trustee > 0 && trustee != item.owner() && grants.mask(g) != 0;
        if (someone && facts.trustees.subject(trustee) >= 0 && !reaches(trustee, r)) {
          String cause = facts.tree.id(schema(r)) + " " + facts.trustees.text(trustee);
          byCause.computeIfAbsent(cause, c -> new ArrayList<>()).add(g);
        }
      }
    }
    byCause.forEach(
        (cause, shown) -> {
          int resource = grants.all().get(shown.get(0)).resource();
          String label = facts.trustees.label(grants.trustee(shown.get(0)));
          all.add(
              remark(
                  DatabaseRemarkKind.GRANT_WITHOUT_EFFECT,
                  resource,
                  cause,
                  "the role "
                      + label
                      + " was granted "
                      + first(shown)
                      + ", but may not use the schema "
                      + facts.tree.id(schema(resource))
                      + " or connect",
                  shown,
                  shown.size() - 1,
                  "grant usage of the schema, or revoke what cannot be used"));
        });
  }

  private boolean reaches(int trustee, int resource) {
    SubjectSet subjects = subjectsOf.apply(facts.trustees.subject(trustee));
    subjects.sure().add(facts.trustees.subject(Trustees.EVERYONE));
    Who who = Who.of(new Token(Token.NOBODY, subjects, 0), facts.trustees);
    DatabaseMasks masks = new DatabaseMasks(facts, new DatabaseWho(who, false, false));
    return masks.reaches(resource, true);
  }

  /** Up to version 15 these may give themselves every role but a superuser's. */
  private void creators(List<Remark> all) {
    new TreeMap<>(facts.creators)
        .forEach(
            (trustee, name) ->
                all.add(
                    new Remark(
                        DatabaseRemarkKind.CAN_CREATE_ROLES,
                        0,
                        name,
                        "the role "
                            + name
                            + " may create roles, and so "
                            + (facts.creatorsReachAll
                                ? "give itself every role but a superuser's, also those that reach"
                                    + " the server's files, and set their passwords"
                                : "give itself those over which it has the admin option"),
                        subjects(trustee),
                        List.of(),
                        0,
                        "let superusers create roles, or say who may do so and why")));
  }

  /** Roles by which files of the server are reached, and all who come to them. */
  private void serverFiles(List<Remark> all) {
    DatabaseClimbs climbs = new DatabaseClimbs(facts);
    for (Switch allowed : facts.switches) {
      String how = facts.powerful.getOrDefault(allowed.role(), DatabaseFacts.SUPERUSER);
      if (!how.equals(DatabaseFacts.SUPERUSER)) {
        String member = facts.trustees.label(allowed.member());
        String role = facts.trustees.label(allowed.role());
        all.add(
            new Remark(
                DatabaseRemarkKind.SERVER_FILE_ACCESS,
                0,
                facts.trustees.text(allowed.member()) + " " + facts.trustees.text(allowed.role()),
                "the role "
                    + member
                    + " is a member of "
                    + role
                    + ", which "
                    + how
                    + also(climbs, allowed),
                subjects(climbs, allowed),
                List.of(),
                0,
                "revoke " + role + " from " + member + ", or say who may do so and why"));
      }
    }
  }

  private List<Integer> subjects(DatabaseClimbs climbs, Switch allowed) {
    List<Integer> all = new ArrayList<>(subjects(allowed.member()));
    climbs.leadingTo(allowed.member()).forEach(role -> all.addAll(subjects(role)));
    return all.stream().distinct().sorted().toList();
  }

  private String also(DatabaseClimbs climbs, Switch allowed) {
    List<String> others =
        climbs.leadingTo(allowed.member()).stream().map(facts.trustees::label).sorted().toList();
    return others.isEmpty()
        ? ""
        : "; so may "
            + String.join(", ", others.stream().limit(4).toList())
            + (others.size() > 4 ? " and " + (others.size() - 4) + " more" : "")
            + ", who can become "
            + facts.trustees.label(allowed.member());
  }

  private void switches(List<Remark> all) {
    DatabaseClimbs climbs = new DatabaseClimbs(facts);
    for (Switch allowed : facts.switches) {
      boolean plain = !facts.powerful.containsKey(allowed.role());
      if ((!allowed.inherits() && plain) || allowed.superuser()) {
        String member = facts.trustees.label(allowed.member());
        String role = facts.trustees.label(allowed.role());
        Remark.Kind kind =
            allowed.superuser()
                ? DatabaseRemarkKind.SUPERUSER_BY_MEMBERSHIP
                : DatabaseRemarkKind.CAN_SWITCH_ROLE;
        all.add(
            new Remark(
                kind,
                0,
                facts.trustees.text(allowed.member()) + " " + facts.trustees.text(allowed.role()),
                "the role "
                    + member
                    + " may switch to "
                    + role
                    + (allowed.superuser()
                        ? ", a superuser, who may do everything" + also(climbs, allowed)
                        : " and then has its rights, although it does not inherit them"),
                allowed.superuser() ? subjects(climbs, allowed) : subjects(allowed.member()),
                List.of(),
                0,
                "revoke " + role + " from " + member + ", or say who may do so and why"));
      }
    }
  }

  private List<Integer> subjects(int trustee) {
    int subject = facts.trustees.subject(trustee);
    return subject < 0 ? List.of() : List.of(subject);
  }

  private Remark remark(
      Remark.Kind kind,
      int resource,
      String cause,
      String sentence,
      List<Integer> shown,
      int also,
      String advice) {
    List<Integer> subjects =
        shown.stream()
            .map(g -> grants.all().get(g).subject())
            .filter(s -> s >= 0)
            .distinct()
            .sorted()
            .toList();
    return new Remark(kind, resource, cause, sentence, subjects, shown, also, advice);
  }
}
