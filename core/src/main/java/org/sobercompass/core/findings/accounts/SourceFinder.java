package org.sobercompass.core.findings.accounts;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment.ReadingAccount;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.SourceDetails;
import org.sobercompass.core.findings.details.SourceDetails.Besides;
import org.sobercompass.core.findings.details.SourceDetails.Sort;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Terms;
import org.sobercompass.core.system.Verdict;

/**
 * What is wrong around applications and directories: reading accounts that can write, passwords in
 * clear, no emergency account or an untried one, nobody who answers.
 */
public final class SourceFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.READING_ACCOUNT_WRITES,
          FindingKind.PASSWORD_IN_CLEAR,
          FindingKind.NO_EMERGENCY_ACCOUNT,
          FindingKind.EMERGENCY_ACCOUNT_UNTESTED,
          FindingKind.NO_OWNER,
          FindingKind.OWNER_GONE);

  private final FindingContext context;

  public SourceFinder(FindingContext context) {
    this.context = context;
  }

  @Override
  public void find(Consumer<Finding> out) {
    for (ReadingAccount reader : context.assessment.readers()) {
      reader(reader, out);
    }
    for (SystemView view : context.model.systems()) {
      emergency(view, out);
    }
    owners(out);
  }

  private void reader(ReadingAccount reader, Consumer<Finding> out) {
    Key key =
        reader.account() >= 0
            ? context.facts.key(reader.account())
            : new Key(KeyKind.ACCOUNT, reader.directory(), reader.name());
    SourceDetails.Reader who =
        new SourceDetails.Reader(
            reader.directory(), reader.account(), reader.name(), reader.whose());
    if (reader.inClear()) {
      out.accept(
          of(
              FindingKind.PASSWORD_IN_CLEAR,
              reader.whose(),
              key,
              Weight.HIGH,
              new SourceDetails.PasswordInClear(who),
              List.of(key),
              List.of(new Evidence.Unprotected(reader.whose()))));
    }
    List<Besides> more = reader.account() < 0 ? List.of() : more(reader);
    if (!more.isEmpty()) {
      out.accept(
          of(
              FindingKind.READING_ACCOUNT_WRITES,
              reader.whose(),
              key,
              Weight.MEDIUM,
              new SourceDetails.ReaderWrites(who, more.get(0)),
              List.of(key),
              more.stream().limit(FindingContext.LISTED).map(Evidence.CanBesides::new).toList()));
    }
  }

  /** What it can do to objects of its directory, one line an action. */
  private List<Besides> more(ReadingAccount reader) {
    Powers powers = context.assessment.powers();
    List<Besides> found = new ArrayList<>();
    for (DirectoryTree tree : powers.trees().all()) {
      if (!tree.directory().equals(reader.directory())) {
        continue;
      }
      for (AdminAction action : powers.roles().administration().actions()) {
        if (action.weight() > 0) {
          first(reader, tree, action).ifPresent(found::add);
        }
      }
    }
    byRole(reader.account(), found);
    return found;
  }

  /** The admin roles that let it do more than look, one line each. */
  private void byRole(int account, List<Besides> found) {
    Administration administration = context.assessment.powers().roles().administration();
    long asOf = context.model.asOf().getEpochSecond();
    for (int g : context.assessment.powers().roles().grantsOf(account)) {
      AdminGrant grant = administration.grants().get(g);
      List<String> actions =
          administration.actions().stream()
              .filter(action -> action.weight() > 0)
              .filter(
                  action ->
                      administration.roles().get(grant.role()).actions().contains(action.id()))
              .map(AdminAction::name)
              .toList();
      if (grant.activeAt(asOf) && !actions.isEmpty()) {
        found.add(
            new Besides.ByRole(
                actions,
                administration.over(grant),
                administration.roles().get(grant.role()).name()));
      }
    }
  }

  /** The first object that it can do an action to; lists that are the same are asked once. */
  private Optional<Besides> first(ReadingAccount reader, DirectoryTree tree, AdminAction action) {
    Powers powers = context.assessment.powers();
    java.util.Set<Long> asked = new java.util.HashSet<>();
    for (int object = 0; object < tree.size(); object++) {
      long list = (long) tree.descriptorNumber(object) << 20 | tree.kind(object);
      if (action.fits(tree.names(), tree.objectClass(object))
          && asked.add(list)
          && powers.lists().byList(reader.account(), action, new DirectoryTrees.Spot(tree, object))
              == Verdict.YES) {
        return Optional.of(new Besides.ToObject(action.name(), tree.label(object)));
      }
    }
    return Optional.empty();
  }

  private void emergency(SystemView view, Consumer<Finding> out) {
    boolean asks = !view.admission().isOpen() && !view.assigned().isEmpty();
    Key key = context.systemKey(view);
    List<Terms.Emergency> accounts = view.admission().terms().emergency();
    if (asks && accounts.isEmpty()) {
      out.accept(
          of(
              FindingKind.NO_EMERGENCY_ACCOUNT,
              "",
              key,
              Weight.LOW,
              new SourceDetails.NoEmergencyAccount(view.number()),
              List.of(key),
              List.of()));
    }
    LocalDate now = context.model.asOf().atZone(ZoneOffset.UTC).toLocalDate();
    for (Terms.Emergency account : accounts) {
      Optional<Long> days = account.tried().map(tried -> ChronoUnit.DAYS.between(tried, now));
      boolean toCome = days.isPresent() && days.get() < 0;
      if (days.isEmpty() || days.get() > context.limits.untriedDays() || toCome) {
        out.accept(
            of(
                FindingKind.EMERGENCY_ACCOUNT_UNTESTED,
                account.account(),
                key,
                Weight.LOW,
                new SourceDetails.EmergencyUntested(
                    view.number(), account.account(), account.tried(), days),
                List.of(key),
                List.of(new Evidence.TrialExpected(context.limits.untriedDays()))));
      }
    }
  }

  /** What somebody has to be responsible for. */
  private record Owned(Sort sort, String name, Key key) {}

  private void owners(Consumer<Finding> out) {
    if (context.rules.owners().contains("applications")) {
      for (SystemView view : context.model.systems()) {
        Integer owner = context.assessment.owned().applications().get(view.id());
        Owned what = new Owned(Sort.APPLICATION, view.system().name(), context.systemKey(view));
        owner(what, owner, out);
      }
    }
    if (context.rules.owners().contains("scopes")) {
      for (AdminScope scope : context.assessment.powers().roles().administration().scopes()) {
        Integer owner = context.assessment.owned().scopes().get(scope.id());
        Key key = new Key(KeyKind.NODE, "scope", scope.id());
        owner(new Owned(Sort.SCOPE, scope.name(), key), owner, out);
      }
    }
    if (context.rules.owners().contains("groups")) {
      groups(out);
    }
  }

  /** Groups that are given roles, of directories in which any group has an owner. */
  private void groups(Consumer<Finding> out) {
    java.util.Set<String> keeping = new java.util.HashSet<>();
    int first = context.facts.firstGroup();
    for (int group = first; group < first + context.facts.groups(); group++) {
      if (isOwned(group)) {
        keeping.add(context.facts.source(group));
      }
    }
    IntList given = new IntList();
    java.util.BitSet met = new java.util.BitSet();
    for (SystemView view : context.model.systems()) {
      for (Grant grant : view.assigned()) {
        boolean asked =
            grant.subject() >= 0
                && grant.activeAt(context.model.asOf().getEpochSecond())
                && context.facts.kind(grant.subject()) == SubjectKind.GROUP
                && keeping.contains(context.facts.source(grant.subject()));
        if (asked && !met.get(grant.subject())) {
          met.set(grant.subject());
          given.add(grant.subject());
        }
      }
    }
    given.sort();
    for (int i = 0; i < given.size(); i++) {
      if (!isOwned(given.get(i))) {
        Key key = context.facts.key(given.get(i));
        owner(new Owned(Sort.GROUP, context.facts.label(given.get(i)), key), null, out);
      }
    }
  }

  private boolean isOwned(int group) {
    return context.rules.ownerAttributes().stream()
        .anyMatch(attribute -> !context.facts.values(group, attribute).isEmpty());
  }

  /** Where nobody is the owner, or one whose account does not work any more. */
  private void owner(Owned what, @Nullable Integer owner, Consumer<Finding> out) {
    if (owner == null) {
      SourceDetails details = new SourceDetails.NoOwner(what.sort, what.name);
      List<Key> itself = List.of(what.key);
      out.accept(of(FindingKind.NO_OWNER, "", what.key, Weight.LOW, details, itself, List.of()));
    } else if (context.facts.kind(owner) == SubjectKind.ACCOUNT) {
      boolean disabled = context.facts.is(owner, Facts.DISABLED);
      if (disabled || context.facts.expires(owner) <= context.model.asOf().getEpochSecond()) {
        out.accept(
            of(
                FindingKind.OWNER_GONE,
                "",
                what.key,
                Weight.MEDIUM,
                new SourceDetails.OwnerGone(what.sort, what.name, owner, disabled),
                List.of(context.facts.key(owner)),
                List.of()));
      }
    }
  }

  private Finding of(
      FindingKind kind,
      String rule,
      Key cause,
      Weight weight,
      SourceDetails details,
      List<Key> subjects,
      List<? extends Evidence> evidence) {
    return context.decision(kind, rule, cause, weight, details, evidence, "", subjects);
  }
}
