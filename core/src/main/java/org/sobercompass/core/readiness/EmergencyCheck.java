package org.sobercompass.core.readiness;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Terms;

/**
 * Whether somebody still gets in, and can administer, when the directory is down: emergency
 * accounts, and administrators who all depend on the directory, before and after a switch to it.
 * Not thread-safe.
 */
public final class EmergencyCheck {
  /** After how many days without a try an emergency account is told. */
  public static final int DAYS_UNTRIED = 180;

  private final AccessModel model;
  private final Facts facts;
  private final List<Problem> problems = new ArrayList<>();

  /** Over a model. */
  public EmergencyCheck(AccessModel model) {
    this.model = model;
    this.facts = model.facts();
  }

  private void warn(Place place, String what, String expected) {
    problems.add(Problem.warning(place, what, expected));
  }

  /** Before a switch, who administers: nobody, when all administrators are in the directory. */
  private void switching(SystemView view) {
    long asOf = model.asOf().getEpochSecond();
    view.admission()
        .terms()
        .switching()
        .filter(s -> asOf < s.at())
        .ifPresent(
            s -> {
              Set<Integer> accounts = administering(view);
              boolean all =
                  !accounts.isEmpty()
                      && accounts.stream().allMatch(a -> facts.source(a).equals(s.directory()));
              if (all && view.admission().terms().emergency().isEmpty()) {
                warn(
                    Place.of(view.id()),
                    view.system().name()
                        + " has no administrator until "
                        + s.day()
                        + ": all "
                        + accounts.size()
                        + " are in "
                        + s.directory()
                        + ", which it does not sign in from before",
                    "an administrator among its own accounts, or an emergency account");
              }
            });
  }

  /** The accounts that hold a role which administers the system. */
  private Set<Integer> administering(SystemView view) {
    Set<Integer> accounts = new TreeSet<>();
    long asOf = model.asOf().getEpochSecond();
    for (Grant grant : view.grants()) {
      String role = view.system().roles().get(grant.role()).id();
      boolean counts = view.admission().terms().administrators().contains(role);
      if (counts
          && grant.subject() >= 0
          && grant.activeAt(asOf)
          && facts.kind(grant.subject()) != SubjectKind.IMPLICIT) {
        IntList reached = new IntList();
        view.memberships().walker().accounts(grant.subject(), reached);
        for (int i = 0; i < reached.size(); i++) {
          accounts.add(reached.get(i));
        }
      }
    }
    return accounts;
  }

  /** Says when all who administer a system are in the directory it sees. */
  private String administrators(SystemView view) {
    Set<Integer> accounts = administering(view);
    String directory = view.system().sight().directory();
    long inside = accounts.stream().filter(a -> facts.source(a).equals(directory)).count();
    return accounts.isEmpty() || inside < accounts.size()
        ? ""
        : accounts.size() == 1
            ? "; its only administrator signs in from there"
            : "; all " + accounts.size() + " of its administrators sign in from there";
  }

  /** What is to be told of one system. */
  List<Problem> of(SystemView view) {
    problems.clear();
    boolean needsDirectory = !view.admission().isOpen() && !view.assigned().isEmpty();
    List<Terms.Emergency> accounts = view.admission().terms().emergency();
    switching(view);
    if (needsDirectory && accounts.isEmpty()) {
      warn(
          Place.of(view.id()),
          view.system().name()
              + " has no emergency account: "
              + view.admission()
                  .terms()
                  .switching()
                  .filter(s -> model.asOf().getEpochSecond() < s.at())
                  .map(s -> "from " + s.day() + " on ")
                  .orElse("")
              + "nobody gets in without "
              + view.system().sight().directory()
              + administrators(view),
          "emergency: an account kept in the application, and when it was last tried");
    }
    LocalDate now = model.asOf().atZone(ZoneOffset.UTC).toLocalDate();
    for (Terms.Emergency account : accounts) {
      Optional<Long> days = account.tried().map(tried -> ChronoUnit.DAYS.between(tried, now));
      if (days.isEmpty() || days.get() > DAYS_UNTRIED) {
        warn(
            Place.of(view.id()).entry(account.account()),
            "the emergency account "
                + account.account()
                + (days.isEmpty()
                    ? " was never tried"
                    : " was last tried " + days.get() + " days ago"),
            "a try within " + DAYS_UNTRIED + " days, and its date");
      }
    }
    return List.copyOf(problems);
  }
}
