package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Standing.State;

/**
 * Whom a system admits: its sign-in and its register. Says which implicit groups an account is in,
 * and whether a condition blocks it. Immutable and thread-safe.
 */
public final class Admission {
  private final Facts facts;
  private final boolean open;
  private final Set<String> signInKinds;
  private final Optional<List<Enrolment>> register;
  private final Terms terms;
  private final Map<Integer, List<Enrolment>> bySubject = new HashMap<>();
  private Map<Integer, List<Bar>> barred = Map.of();
  private boolean unread;

  /**
   * An admission.
   *
   * @param open the system asks for no sign-in
   * @param signInKinds the kinds of sign-in it accepts; none means all
   * @param register whom it knows, or empty when it keeps no register
   */
  public Admission(
      Facts facts, boolean open, Set<String> signInKinds, Optional<List<Enrolment>> register) {
    this(facts, open, signInKinds, register, Terms.NONE);
  }

  /** An admission on terms. */
  public Admission(
      Facts facts,
      boolean open,
      Set<String> signInKinds,
      Optional<List<Enrolment>> register,
      Terms terms) {
    this.terms = terms;
    this.facts = facts;
    this.open = open;
    this.signInKinds = Set.copyOf(signInKinds);
    this.register = register.map(List::copyOf);
    register.ifPresent(
        lines -> {
          for (Enrolment line : lines) {
            boolean isUnread = line.subject() == Grant.UNREAD;
            int subject = isUnread ? facts.implicit(Implicit.UNREAD) : line.subject();
            bySubject.computeIfAbsent(subject, s -> new ArrayList<>()).add(line);
            unread |= isUnread;
          }
        });
  }

  /**
   * What keeps an account out.
   *
   * @param reason why, in words
   * @param from from when on, epoch second
   * @param sure whether it does for sure; else it depends on how the account signs in
   */
  public record Bar(String reason, long from, boolean sure) {}

  /** The same, keeping these accounts out, each for reasons. */
  public Admission barring(Map<Integer, List<Bar>> accounts) {
    Admission other = new Admission(facts, open, signInKinds, register, terms);
    other.barred = Map.copyOf(accounts);
    other.unread = unread;
    return other;
  }

  /** What keeps an account out at an epoch second, what does so for sure first. */
  public List<Bar> bars(int account, long asOf) {
    List<Bar> own = barred.getOrDefault(account, List.of());
    if (own.isEmpty()) {
      return own; // Nearly always: this is asked of every account.
    }
    return own.stream()
        .filter(bar -> bar.from() <= asOf)
        .sorted(java.util.Comparator.comparing(bar -> !bar.sure()))
        .toList();
  }

  /** Whether it asks for no sign-in. */
  public boolean isOpen() {
    return open;
  }

  /** Its register, if it keeps one. */
  public Optional<List<Enrolment>> register() {
    return register;
  }

  /** What it asks besides an enrolment. */
  public Terms terms() {
    return terms;
  }

  /** The kinds of sign-in it accepts; none means all. */
  public Set<String> signInKinds() {
    return signInKinds;
  }

  /** The lines of the register for any of these subjects. */
  public List<Enrolment> lines(IntList subjects) {
    List<Enrolment> lines = new ArrayList<>();
    for (int i = 0; i < subjects.size(); i++) {
      lines.addAll(bySubject.getOrDefault(subjects.get(i), List.of()));
    }
    return lines;
  }

  /** Adds the implicit groups of an account that is seen. {@code subjects} holds its groups. */
  public void addImplicit(SubjectSet subjects) {
    addUnread(subjects);
    if (!subjects.sure().isEmpty()) {
      boolean enrolled = register.isEmpty() || enrolled(subjects.sure());
      boolean perhaps = !enrolled && enrolled(subjects.perhaps());
      subjects.sure().add(facts.implicit(Implicit.EVERYONE));
      subjects.sure().add(facts.implicit(Implicit.SIGNED_IN));
      if (enrolled || perhaps) {
        (enrolled ? subjects.sure() : subjects.perhaps()).add(facts.implicit(Implicit.MEMBERS));
      }
    } else if (!subjects.perhaps().isEmpty()) {
      boolean enrolled = register.isEmpty() || enrolled(subjects.perhaps());
      subjects.perhaps().add(facts.implicit(Implicit.SIGNED_IN));
      if (enrolled) {
        subjects.perhaps().add(facts.implicit(Implicit.MEMBERS));
      }
      (open ? subjects.sure() : subjects.perhaps()).add(facts.implicit(Implicit.EVERYONE));
    } else if (open) {
      subjects.sure().add(facts.implicit(Implicit.EVERYONE));
    }
  }

  /**
   * Adds a group that was not read, of which anybody may be a member, where the system names one.
   */
  private void addUnread(SubjectSet subjects) {
    if (unread && !open && !(subjects.sure().isEmpty() && subjects.perhaps().isEmpty())) {
      subjects.perhaps().add(facts.implicit(Implicit.UNREAD));
    }
  }

  /** Whether the system gives to, or enrols, groups that are not in what was read. */
  public boolean namesUnread() {
    return unread;
  }

  /**
   * The same with a line of its register more or less.
   *
   * @throws IllegalArgumentException when it keeps no register: nobody was kept out by one
   */
  Admission with(Redefinition.RegisterLine how) {
    List<Enrolment> lines =
        new ArrayList<>(
            register.orElseThrow(() -> new IllegalArgumentException("there is no register")));
    if (how.added()) {
      lines.add(how.line());
    } else {
      lines.remove(how.line());
    }
    return copy(facts, Optional.of(lines));
  }

  /** The same on other terms of sign-in; whom it knows, and whom it keeps out, stays. */
  public Admission onTermsOf(Admission other) {
    return new Admission(facts, other.open, other.signInKinds, register, other.terms).as(this);
  }

  /** The same over facts in which accounts are otherwise. */
  public Admission over(Facts others) {
    return copy(others, register);
  }

  private Admission copy(Facts others, Optional<List<Enrolment>> lines) {
    return new Admission(others, open, signInKinds, lines, terms).as(this);
  }

  private Admission as(Admission was) {
    barred = was.barred;
    unread |= was.unread;
    return this;
  }

  /** The same of a system that gives something to groups that are not in what was read. */
  public Admission namingUnread() {
    Admission other = copy(facts, register);
    other.unread = true;
    return other;
  }

  /** Fills {@code into} with what anybody is without signing in. */
  public void anybody(SubjectSet into) {
    into.clear();
    if (open) {
      into.sure().add(facts.implicit(Implicit.EVERYONE));
    }
  }

  private boolean enrolled(IntList subjects) {
    for (int i = 0; i < subjects.size(); i++) {
      for (Enrolment line : bySubject.getOrDefault(subjects.get(i), List.of())) {
        if (line.active()) {
          return true;
        }
      }
    }
    return false;
  }

  /** Whether an account may use what it holds. {@code subjects} is what it counts as here. */
  public Standing standing(int account, SubjectSet subjects, long asOf) {
    List<String> reasons = AccountStanding.blocking(facts, account, asOf);
    List<Bar> bars = bars(account, asOf);
    for (Bar bar : bars) {
      if (bar.sure()) {
        reasons.add(bar.reason());
      }
    }
    if (isBeforeSwitch(account, asOf)) {
      reasons.add("the application does not sign in from " + facts.source(account) + " yet");
    }
    Truth host = HostLimits.allows(HostLimits.of(facts, account), terms.hosts());
    if (host == Truth.FALSE) {
      reasons.add("it may not sign in from " + String.join(" or ", terms.hosts()));
    }
    boolean perhapsEnrolled = false;
    if (register.isPresent()) {
      Optional<String> sure = notAdmitted(subjects.sure());
      perhapsEnrolled = sure.isPresent() && notAdmitted(subjects.perhaps()).isEmpty();
      if (!perhapsEnrolled) {
        sure.ifPresent(reasons::add);
      }
    }
    if (!reasons.isEmpty()) {
      return new Standing(State.BLOCKED, List.copyOf(reasons));
    }
    if (!bars.isEmpty()) {
      return new Standing(State.UNDECIDED, bars.stream().map(Bar::reason).toList());
    }
    return unknown(account, host, perhapsEnrolled)
        .map(reason -> new Standing(State.UNDECIDED, List.of(reason)))
        .orElse(Standing.USABLE);
  }

  /** What is not known of an account that nothing keeps out for sure. */
  private Optional<String> unknown(int account, Truth host, boolean perhapsEnrolled) {
    Optional<String> own = AccountStanding.unknown(facts, account);
    if (own.isPresent()) {
      return own;
    }
    if (host == Truth.UNDEFINED) {
      return Optional.of("only from " + String.join(", ", HostLimits.of(facts, account)));
    }
    return perhapsEnrolled
        ? Optional.of("it is not known whether it is enrolled")
        : Optional.empty();
  }

  /** Whether the system signs in from the directory of this account only later. */
  public boolean isBeforeSwitch(int account, long asOf) {
    return terms
        .switching()
        .filter(s -> asOf < s.at() && s.directory().equals(facts.source(account)))
        .isPresent();
  }

  /** Why the register does not admit any of these subjects; empty when it does. */
  private Optional<String> notAdmitted(IntList subjects) {
    String reason = "not enrolled";
    for (Enrolment line : lines(subjects)) {
      Optional<String> missing = missing(line);
      if (missing.isEmpty()) {
        return Optional.empty();
      }
      reason = missing.get();
    }
    return Optional.of(reason);
  }

  /** What a line of the register lacks to be used. */
  private Optional<String> missing(Enrolment line) {
    if (!line.active()) {
      return Optional.of("enrolled but not active");
    }
    if (!isAccepted(line)) {
      return Optional.of(
          "enrolled for a kind of sign-in that is not accepted (" + line.provider() + ")");
    }
    if (!isHere(line)) {
      return Optional.of("enrolled at " + line.at() + " only, not at " + terms.place().orElse(""));
    }
    return terms.secondFactor() && !line.secondFactor()
        ? Optional.of("no second factor is registered")
        : Optional.empty();
  }

  /** Whether its kind of sign-in is accepted. */
  public boolean isAccepted(Enrolment line) {
    return signInKinds.isEmpty() || signInKinds.contains(line.provider());
  }

  /** Whether it was made in the place that counts. */
  public boolean isHere(Enrolment line) {
    return line.at().isEmpty() || terms.place().isEmpty() || terms.place().get().equals(line.at());
  }
}
