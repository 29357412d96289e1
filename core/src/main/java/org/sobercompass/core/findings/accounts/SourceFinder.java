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
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment.ReadingAccount;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Finding.Evidence;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
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
    if (reader.inClear()) {
      out.accept(
          of(
              FindingKind.PASSWORD_IN_CLEAR,
              reader.whose(),
              key,
              Weight.HIGH,
              "the password of "
                  + reader.name()
                  + ", by which "
                  + reader.whose()
                  + " reads "
                  + reader.directory()
                  + ", is sent in clear",
              List.of(key),
              List.of(Evidence.of(reader.whose() + " connects without protection")),
              "let " + reader.whose() + " connect with TLS, then set a new password"));
    }
    List<String> more = reader.account() < 0 ? List.of() : more(reader);
    if (!more.isEmpty()) {
      out.accept(
          of(
              FindingKind.READING_ACCOUNT_WRITES,
              reader.whose(),
              key,
              Weight.MEDIUM,
              Words.subject(context.facts, reader.account())
                  + " only has to read "
                  + reader.directory()
                  + " for "
                  + reader.whose()
                  + ", but can do more: "
                  + more.get(0),
              List.of(key),
              more.stream().limit(10).map(Evidence::of).toList(),
              "let it read with an account that can only read"));
    }
  }

  /** What it can do to objects of its directory, one line an action. */
  private List<String> more(ReadingAccount reader) {
    Powers powers = context.assessment.powers();
    List<String> found = new ArrayList<>();
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
  private void byRole(int account, List<String> found) {
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
            String.join(", ", actions)
                + " over "
                + administration.over(grant)
                + ", by the admin role "
                + administration.roles().get(grant.role()).name());
      }
    }
  }

  /** The first object that it can do an action to; lists that are the same are asked once. */
  private Optional<String> first(ReadingAccount reader, DirectoryTree tree, AdminAction action) {
    Powers powers = context.assessment.powers();
    java.util.Set<Long> asked = new java.util.HashSet<>();
    for (int object = 0; object < tree.size(); object++) {
      long list = (long) tree.descriptorNumber(object) << 20 | tree.kind(object);
      if (action.fits(tree.names(), tree.objectClass(object))
          && asked.add(list)
          && powers.lists().byList(reader.account(), action, new DirectoryTrees.Spot(tree, object))
              == Verdict.YES) {
        return Optional.of(action.name() + ": " + tree.label(object));
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
              view.system().name()
                  + " has no emergency account: nobody gets in without "
                  + view.system().sight().directory(),
              List.of(key),
              List.of(),
              "keep an account in the application, sealed, and write down when it was tried"));
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
                "the emergency account "
                    + account.account()
                    + " of "
                    + view.system().name()
                    + (toCome
                        ? " is said to have been tried on "
                            + account.tried().orElseThrow()
                            + ", which is still to come"
                        : days.map(d -> " was last tried " + d + " days ago")
                            .orElse(" was never tried")),
                List.of(key),
                List.of(
                    Evidence.of(
                        "a try within " + context.limits.untriedDays() + " days is expected")),
                "sign in with it once, and write down the date"));
      }
    }
  }

  private void owners(Consumer<Finding> out) {
    if (context.rules.owners().contains("applications")) {
      for (SystemView view : context.model.systems()) {
        Integer owner = context.assessment.owned().applications().get(view.id());
        String what = "the application " + view.system().name();
        if (owner == null) {
          out.accept(owner(what, context.systemKey(view)));
        } else {
          gone(what, context.systemKey(view), owner, out);
        }
      }
    }
    if (context.rules.owners().contains("scopes")) {
      for (AdminScope scope : context.assessment.powers().roles().administration().scopes()) {
        Integer owner = context.assessment.owned().scopes().get(scope.id());
        Key key = new Key(KeyKind.NODE, "scope", scope.id());
        if (owner == null) {
          out.accept(owner("the admin scope " + scope.name(), key));
        } else {
          gone("the admin scope " + scope.name(), key, owner, out);
        }
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
        out.accept(
            owner(
                "the group " + context.facts.label(given.get(i)) + ", which carries rights",
                context.facts.key(given.get(i))));
      }
    }
  }

  private boolean isOwned(int group) {
    return context.rules.ownerAttributes().stream()
        .anyMatch(attribute -> !context.facts.values(group, attribute).isEmpty());
  }

  /** An owner whose account does not work any more. */
  private void gone(String what, Key key, int owner, Consumer<Finding> out) {
    if (context.facts.kind(owner) != SubjectKind.ACCOUNT) {
      return;
    }
    boolean disabled = context.facts.is(owner, org.sobercompass.core.facts.Facts.DISABLED);
    boolean expired = context.facts.expires(owner) <= context.model.asOf().getEpochSecond();
    if (disabled || expired) {
      out.accept(
          of(
              FindingKind.OWNER_GONE,
              "",
              key,
              Weight.MEDIUM,
              Words.subject(context.facts, owner)
                  + " is the owner of "
                  + what
                  + " and is "
                  + (disabled ? "disabled" : "expired"),
              List.of(context.facts.key(owner)),
              List.of(),
              "name an owner whose account works"));
    }
  }

  private Finding owner(String what, Key key) {
    return of(
        FindingKind.NO_OWNER,
        "",
        key,
        Weight.LOW,
        "nobody is responsible for " + what,
        List.of(key),
        List.of(),
        "name an owner: an account or group that exists");
  }

  private Finding of(
      FindingKind kind,
      String rule,
      Key cause,
      Weight weight,
      String sentence,
      List<Key> subjects,
      List<Evidence> evidence,
      String advice) {
    return new Finding(
        kind,
        rule,
        cause,
        weight,
        List.of(kind.words()),
        sentence,
        "",
        subjects,
        evidence,
        advice,
        List.of());
  }
}
