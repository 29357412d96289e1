package org.sobercompass.core.readiness;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.readiness.Readiness.Step;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Standing;

/** Asks the conditions for using a system, one account at a time. Not thread-safe. */
public final class ReadinessCheck {
  /** Attributes (lower case) that say from where an account may sign in. */
  public static final Set<String> NEEDS = HostLimits.NEEDS;

  private final Asker asker;
  private final Facts facts;
  private final Optional<String> from;
  private @Nullable Given given;

  /**
   * A check.
   *
   * @param from the host somebody would sign in from, if that is asked
   */
  public ReadinessCheck(Asker asker, Optional<String> from) {
    this.asker = asker;
    this.facts = asker.model().facts();
    this.from = from;
  }

  private Given given() {
    if (given == null) {
      given = new Given(asker.model());
    }
    return given;
  }

  /** All conditions for one account in one system. */
  public Readiness of(SystemView view, int account) {
    List<Step> steps = new ArrayList<>();
    if (!view.admission().isOpen()) {
      steps.add(seen(view, account));
      enrolment(view, account, steps);
      switching(view, account, steps);
      state(account, steps);
      for (Admission.Bar bar :
          view.admission().bars(account, asker.model().asOf().getEpochSecond())) {
        steps.add(
            bar.sure()
                ? step(Condition.ADMITTED, false, bar.reason())
                : new Step(Condition.ADMITTED, Truth.UNDEFINED, bar.reason()));
      }
      host(view, account, steps);
    }
    rights(view, account, steps);
    steps.sort(Comparator.comparing(Step::condition));
    return new Readiness(
        account,
        view.number(),
        steps,
        view.admission().isOpen() ? "" : name(view, account),
        caseCounts(view, account));
  }

  /** The conditions of the account itself, whatever the system: enabled, not expired, and so on. */
  public List<Step> account(int account) {
    List<Step> steps = new ArrayList<>();
    state(account, steps);
    return steps;
  }

  /**
   * Whether all conditions are surely met; the same as {@link #of} says, without the words. False
   * when it is not known.
   *
   * @param who the projection of the account there
   */
  public boolean isReady(SystemView view, int account, Projected who) {
    boolean mayEnter =
        view.admission().isOpen()
            || (view.memberships().visibility().sees(account)
                && asker.standing(view, account).state() == Standing.State.USABLE
                && (from.isEmpty() || HostLimits.of(facts, account).isEmpty()));
    if (!mayEnter || who.isEmpty()) {
      return false;
    }
    Found found = new Found();
    view.decider().sweep(who, found);
    return found.yes;
  }

  private String name(SystemView view, int account) {
    return view.admission()
        .terms()
        .signInName()
        .replace("{login}", facts.login(account))
        .replace("{mail}", facts.mail(account));
  }

  /** The system's own rule, else the one of the attribute that holds the login names. */
  private Optional<Boolean> caseCounts(SystemView view, int account) {
    Optional<Boolean> own = view.admission().terms().caseCounts();
    boolean login = view.admission().terms().signInName().contains("{login}");
    return own.or(
        () ->
            login
                ? facts.loginMatching(account).map(m -> !m.syntax().ignoresCase())
                : Optional.empty());
  }

  private Step seen(SystemView view, int account) {
    Visibility visibility = view.memberships().visibility();
    if (visibility.sees(account)) {
      return new Step(Condition.SEEN, Truth.TRUE, "in " + view.system().sight().directory());
    }
    Truth met = visibility.perhapsSees(account) ? Truth.UNDEFINED : Truth.FALSE;
    return new Step(Condition.SEEN, met, SightWords.unseen(facts, view.system().sight(), account));
  }

  private void enrolment(SystemView view, int account, List<Step> steps) {
    Admission admission = view.admission();
    if (admission.register().isEmpty()) {
      steps.add(new Step(Condition.ENROLLED, Truth.TRUE, "it keeps no register"));
      return;
    }
    SubjectSet subjects = asker.subjects(view, account);
    List<Enrolment> lines = admission.lines(subjects.sure());
    if (lines.isEmpty()) {
      boolean perhaps = !admission.lines(subjects.perhaps()).isEmpty();
      steps.add(
          new Step(
              Condition.ENROLLED,
              perhaps ? Truth.UNDEFINED : Truth.FALSE,
              "neither it nor a group of it is in the register"));
      return;
    }
    steps.add(new Step(Condition.ENROLLED, Truth.TRUE, "as " + lines.get(0).subjectText()));
    List<Enrolment> active = lines.stream().filter(Enrolment::active).toList();
    steps.add(step(Condition.ACTIVE, !active.isEmpty(), lines.get(0).place().toString()));
    if (active.isEmpty()) {
      return;
    }
    List<Enrolment> accepted = active.stream().filter(admission::isAccepted).toList();
    steps.add(
        step(
            Condition.SIGN_IN,
            !accepted.isEmpty(),
            accepted.isEmpty()
                ? "it signs in by "
                    + active.get(0).provider()
                    + ", accepted is "
                    + sorted(admission.signInKinds())
                : accepted.get(0).provider()));
    places(admission, accepted, steps);
  }

  /** A directory that is joined but not signed in from yet. */
  private void switching(SystemView view, int account, List<Step> steps) {
    long asOf = asker.model().asOf().getEpochSecond();
    if (view.admission().isBeforeSwitch(account, asOf)) {
      steps.removeIf(step -> step.condition() == Condition.SIGN_IN);
      view.admission()
          .terms()
          .switching()
          .ifPresent(
              s ->
                  steps.add(
                      step(
                          Condition.SIGN_IN,
                          false,
                          "it signs in from " + s.directory() + " from " + s.day() + " on")));
    }
  }

  private static void places(Admission admission, List<Enrolment> accepted, List<Step> steps) {
    if (accepted.isEmpty()) {
      return;
    }
    List<Enrolment> here = accepted.stream().filter(admission::isHere).toList();
    if (admission.terms().place().isPresent()) {
      steps.add(
          step(
              Condition.PLACE,
              !here.isEmpty(),
              here.isEmpty()
                  ? accepted.get(0).at() + ", not " + admission.terms().place().get()
                  : admission.terms().place().get()));
    }
    if (admission.terms().secondFactor()) {
      boolean any = here.stream().anyMatch(Enrolment::secondFactor);
      steps.add(
          step(Condition.SECOND_FACTOR, any, any ? "registered" : "required, none registered"));
    }
  }

  private void state(int account, List<Step> steps) {
    boolean disabled = facts.is(account, Facts.DISABLED);
    steps.add(step(Condition.ENABLED, !disabled, disabled ? "disabled in the directory" : ""));
    if (facts.is(account, Facts.EXPIRY_UNKNOWN)) {
      steps.add(new Step(Condition.NOT_EXPIRED, Truth.UNDEFINED, "its expiry cannot be read"));
    } else {
      long at = facts.expires(account);
      boolean over = at <= asker.model().asOf().getEpochSecond();
      String when = at == Facts.NEVER ? "never ends" : at(at);
      steps.add(step(Condition.NOT_EXPIRED, !over, (over ? "since " : "") + when));
    }
    long now = asker.model().asOf().getEpochSecond();
    if (facts.isLocked(account, now)) {
      long until = facts.arrays().lockedUntil()[account];
      String words = until == Facts.UNTIL_LIFTED ? "until it is unlocked" : "until " + at(until);
      steps.add(step(Condition.NOT_LOCKED, false, "locked " + words));
    } else if (facts.is(account, Facts.LOCKED)) {
      steps.add(
          new Step(Condition.NOT_LOCKED, Truth.UNDEFINED, "locked, unless that has run out since"));
    } else {
      steps.add(step(Condition.NOT_LOCKED, true, ""));
    }
    boolean change = facts.is(account, Facts.PASSWORD_ENDED);
    long ends = facts.passwordEnds(account);
    boolean over = ends <= now;
    String detail =
        change
            ? "it must be changed first"
            : ends == Facts.NEVER ? "" : (over ? "expired " : "until ") + at(ends);
    steps.add(step(Condition.PASSWORD, !change && !over, detail));
  }

  private static String at(long epochSecond) {
    return java.time.Instant.ofEpochSecond(epochSecond).toString();
  }

  /** {@code userWorkstations} ([MS-ADA3]) and {@code host} (RFC 4524): where it may sign in. */
  private void host(SystemView view, int account, List<Step> steps) {
    List<String> allowed = HostLimits.of(facts, account);
    if (allowed.isEmpty()) {
      return;
    }
    List<String> hosts = new ArrayList<>(view.admission().terms().hosts());
    from.ifPresent(
        host -> {
          hosts.clear();
          hosts.add(host);
        });
    String only = "only from " + String.join(", ", allowed);
    Truth met = HostLimits.allows(allowed, hosts);
    String asked = hosts.isEmpty() ? "" : "; asked for " + String.join(", ", hosts);
    steps.add(new Step(Condition.HOST, met, only + asked));
  }

  private void rights(SystemView view, int account, List<Step> steps) {
    Projected who = asker.projected(view, account);
    if (who.isEmpty()) {
      boolean meant = given().systems(account).get(view.number()) && !given().toAll(view);
      steps.add(
          new Step(
              Condition.ROLE,
              Truth.FALSE,
              meant
                  ? "one names a group of it, but does not hold now, or the way there does not"
                      + " count"
                  : "no assignment names it or a group of it"));
      return;
    }
    Found found = new Found();
    view.decider().sweep(who, found);
    Truth any = found.yes ? Truth.TRUE : found.perhaps ? Truth.UNDEFINED : Truth.FALSE;
    steps.add(step(Condition.ROLE, true, ""));
    steps.add(
        new Step(
            Condition.RIGHTS, any, any == Truth.FALSE ? "all of it is denied or replaced" : ""));
  }

  /** Whether anything is held at all. */
  private static final class Found implements GrantSink {
    private boolean yes;
    private boolean perhaps;

    @Override
    public void cell(int resource, boolean below, int count, long[] yes, long[] perhaps) {
      for (long word : yes) {
        this.yes |= word != 0;
      }
      for (long word : perhaps) {
        this.perhaps |= word != 0;
      }
    }
  }

  private static Step step(Condition condition, boolean met, String detail) {
    return new Step(condition, Truth.of(met), detail);
  }

  private static String sorted(Set<String> words) {
    return String.join(", ", words.stream().sorted().toList());
  }
}
