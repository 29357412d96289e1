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
import org.sobercompass.core.system.remark.RemarkedDatabase;
import org.sobercompass.core.system.remark.RemarkedDatabase.RightsOn;

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
                    new RemarkedDatabase.OpenToAll(schema, first(shown)),
                    shown)));
  }

  private RightsOn first(List<Integer> shown) {
    var grant = grants.all().get(shown.get(0));
    return new RightsOn(grants.roles().get(grant.role()).name(), grant.resource());
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
                  new RemarkedDatabase.OutOfReach(label, first(shown), schema(resource)),
                  shown));
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
                        new RemarkedDatabase.CreatesRoles(name, facts.creatorsReachAll),
                        subjects(trustee),
                        List.of(),
                        0)));
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
                new RemarkedDatabase.UsesServerFiles(member, role, how, others(climbs, allowed)),
                subjects(climbs, allowed),
                List.of(),
                0));
      }
    }
  }

  private List<Integer> subjects(DatabaseClimbs climbs, Switch allowed) {
    List<Integer> all = new ArrayList<>(subjects(allowed.member()));
    climbs.leadingTo(allowed.member()).forEach(role -> all.addAll(subjects(role)));
    return all.stream().distinct().sorted().toList();
  }

  /** Who else can become the member. */
  private List<String> others(DatabaseClimbs climbs, Switch allowed) {
    return climbs.leadingTo(allowed.member()).stream().map(facts.trustees::label).sorted().toList();
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
                allowed.superuser()
                    ? new RemarkedDatabase.MayBecomeSuperuser(member, role, others(climbs, allowed))
                    : new RemarkedDatabase.MaySwitch(member, role),
                allowed.superuser() ? subjects(climbs, allowed) : subjects(allowed.member()),
                List.of(),
                0));
      }
    }
  }

  private List<Integer> subjects(int trustee) {
    int subject = facts.trustees.subject(trustee);
    return subject < 0 ? List.of() : List.of(subject);
  }

  private Remark remark(
      Remark.Kind kind, int resource, String cause, RemarkedDatabase about, List<Integer> shown) {
    List<Integer> subjects =
        shown.stream()
            .map(g -> grants.all().get(g).subject())
            .filter(s -> s >= 0)
            .distinct()
            .sorted()
            .toList();
    return new Remark(kind, resource, cause, about, subjects, shown, shown.size() - 1);
  }
}
