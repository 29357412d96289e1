package org.sobercompass.core.review;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Owners;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.review.Review.Line;
import org.sobercompass.core.review.Review.Sheet;
import org.sobercompass.core.review.ReviewItem.Capacity;
import org.sobercompass.core.review.ReviewItem.Recommendation;
import org.sobercompass.core.review.ReviewItem.Trait;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminRoles;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/**
 * Works out who is to confirm what: owners of applications, nodes and folders what is given there,
 * owners of groups who is listed in them, owners of admin scopes who administers them, whom a
 * directory names for a unit what was delegated on it and below, managers what is given to their
 * people by name. Not thread-safe.
 */
public final class ReviewPlan {
  private static final int DIGITS = 10;

  /** What stands for the scope of an admin role that is given over everything. */
  private static final String EVERYTHING = "everything";

  /** What belongs together, then what is unusual first. */
  private static final Comparator<Line> ORDER =
      Comparator.comparing(Line::capacity)
          .thenComparing(Line::of)
          .thenComparing(line -> line.item().advice(), Comparator.reverseOrder());

  private final AccessModel model;
  private final Powers powers;
  private final Facts facts;
  private final Memberships.Walker walker;
  private final Owners owners;
  private final Persons persons;
  private final List<String> managers;
  private final Traits traits;
  private final Set<String> earlier;
  private final Map<Integer, List<Line>> sheets = new TreeMap<>();
  private final List<Line> nobody = new ArrayList<>();
  private final Map<Integer, Integer> reached = new HashMap<>();

  /**
   * A plan for what was judged.
   *
   * @param findings its findings, for what is unusual
   * @param managers the attributes (lower case) that name the manager of a person
   * @param earlier the ids of the items at an earlier survey; empty when there is none
   */
  public ReviewPlan(
      Assessment assessment,
      List<Finding> findings,
      Owners owners,
      List<String> managers,
      Set<String> earlier) {
    this.powers = assessment.powers();
    this.model = powers.model();
    this.facts = model.facts();
    this.walker = model.widest().walker();
    this.owners = owners;
    this.persons = assessment.persons();
    this.managers = List.copyOf(managers);
    model.progress().begin("what is to be confirmed");
    this.traits = new Traits(model, findings);
    this.earlier = Set.copyOf(earlier);
  }

  /** Everything that is to be confirmed. O(grants + memberships + findings). */
  public Review make() {
    ItemFinder finder = new ItemFinder(model);
    finder.grants(this::grant);
    finder.memberships(this::membership);
    finder.delegations(powers, this::delegation);
    List<Sheet> all = new ArrayList<>();
    sheets.forEach(
        (responsible, lines) -> {
          lines.sort(ORDER);
          all.add(new Sheet(responsible, lines));
        });
    nobody.sort(ORDER);
    return new Review(all, nobody);
  }

  private void grant(Change.AssignmentRemoved taken) {
    SystemView view = model.view(taken.system());
    Grant grant = view.grants().get(taken.grant());
    Set<Trait> unusual = EnumSet.noneOf(Trait.class);
    if (!view.system().isOfLists() && Traits.isPowerful(view, grant)) {
      unusual.add(Trait.POWERFUL);
    }
    ReviewItem item = item(List.of(taken), view.id() + " " + grant.id(), grant.subject(), unusual);
    manager(grant.subject(), item);
    if (view.system() instanceof AdminRoles roles) {
      int scope = roles.given().get(taken.grant()).scope();
      String id = scope == AdminGrant.EVERYTHING ? EVERYTHING : roles.defined().get(scope).id();
      put(owners.ofScope(id), Capacity.SCOPE, id, item);
      return;
    }
    List<Integer> who = owners.ofPlace(view, grant.resource());
    if (who.equals(owners.ofApplication(view.id()))) {
      put(who, Capacity.APPLICATION, view.id(), item);
    } else {
      put(who, Capacity.PLACE, view.id() + " " + view.resources().id(grant.resource()), item);
    }
  }

  private void membership(List<Change> taken) {
    Change.MembershipRemoved first = (Change.MembershipRemoved) taken.get(0);
    String group = facts.key(first.group()).text();
    String key = facts.key(first.member()).text() + " in " + group;
    ReviewItem item = item(taken, key, first.member(), EnumSet.noneOf(Trait.class));
    put(owners.ofGroup(first.group()), Capacity.GROUP, group, item);
    manager(first.member(), item);
  }

  private void delegation(DirectoryTree tree, Delegation one) {
    List<Change> taken = new ArrayList<>();
    one.entries().forEach(e -> taken.add(powers.lists().removal(tree, one.object(), e)));
    int subject = powers.trees().subject(one.trustee()).orElse(Grant.MISSING);
    String at = tree.directory() + " " + tree.dnForm(one.object());
    String key = at + " " + one.trustee() + (one.denies() ? " not " : " ") + one.rights();
    Set<Trait> unusual = EnumSet.noneOf(Trait.class);
    if (one.weight() > 1) {
      unusual.add(Trait.POWERFUL);
    }
    ReviewItem item = item(taken, key, subject, unusual, Optional.of(one));
    manager(subject, item);
    for (int object = one.object(); object >= 0; object = tree.parent(object)) {
      int named = powers.trees().subject(tree, object);
      List<Integer> who = named < 0 ? List.of() : owners.ofGroup(named);
      if (!who.isEmpty()) {
        put(who, Capacity.OBJECT, facts.key(named).text(), item);
        return;
      }
    }
    put(List.of(), Capacity.OBJECT, at, item);
  }

  /** A manager confirms what is given to his people by name. */
  private void manager(int subject, ReviewItem item) {
    if (subject >= 0 && facts.kind(subject) == SubjectKind.ACCOUNT) {
      for (int manager : owners.named(subject, managers)) {
        line(manager, Capacity.MANAGER, facts.key(subject).text(), item);
      }
    }
  }

  private void put(List<Integer> who, Capacity capacity, String of, ReviewItem item) {
    if (who.isEmpty()) {
      nobody.add(new Line(capacity, of, item, false));
    }
    who.forEach(one -> line(one, capacity, of, item));
  }

  private void line(int responsible, Capacity capacity, String of, ReviewItem item) {
    boolean own =
        responsible == item.subject()
            || (responsible < facts.accounts()
                && persons.accounts(responsible).contains(item.subject()));
    sheets
        .computeIfAbsent(asked(responsible), k -> new ArrayList<>())
        .add(new Line(capacity, of, item, own));
  }

  /** A person with several accounts gets one sheet. */
  private int asked(int responsible) {
    return responsible < facts.accounts()
        ? persons.accounts(responsible).stream().min(Comparator.naturalOrder()).orElse(responsible)
        : responsible;
  }

  private ReviewItem item(List<Change> taken, String key, int subject, Set<Trait> unusual) {
    return item(taken, key, subject, unusual, Optional.empty());
  }

  private ReviewItem item(
      List<Change> taken,
      String key,
      int subject,
      Set<Trait> unusual,
      Optional<Delegation> delegation) {
    String id = id(key);
    List<Finding> found = traits.findings(taken, subject);
    unusual.addAll(Traits.of(found));
    if (!earlier.isEmpty() && !earlier.contains(id)) {
      unusual.add(Trait.NEW);
    }
    Recommendation advice =
        traits.ends(taken)
            ? Recommendation.TAKE_AWAY
            : unusual.isEmpty() ? Recommendation.KEEP : Recommendation.LOOK;
    List<Step> ends = Proposal.of("", model, taken).steps().stream().distinct().toList();
    Set<String> ids = new LinkedHashSet<>();
    found.forEach(finding -> ids.add(finding.id()));
    return new ReviewItem(
        id, taken, ends, subject, reached(subject), unusual, List.copyOf(ids), advice, delegation);
  }

  private int reached(int subject) {
    if (subject < 0 || facts.kind(subject) == SubjectKind.IMPLICIT) {
      return 0;
    }
    return facts.kind(subject) == SubjectKind.ACCOUNT
        ? 1
        : reached.computeIfAbsent(
            subject,
            group -> {
              IntList accounts = new IntList();
              walker.accounts(group, accounts);
              return accounts.size();
            });
  }

  private static String id(String key) {
    try {
      byte[] digest =
          MessageDigest.getInstance("SHA-256").digest(key.getBytes(StandardCharsets.UTF_8));
      return HexFormat.of().formatHex(digest).substring(0, DIGITS);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }
}
