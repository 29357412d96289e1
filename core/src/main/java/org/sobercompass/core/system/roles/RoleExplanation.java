package org.sobercompass.core.system.roles;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.FactRef;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Proof;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Stopped;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/** Explains one question: which grants give, which are stopped and by what, which are unknown. */
final class RoleExplanation {
  private final RoleDecider decider;
  private final Token token;
  private final Question question;
  private final Limits limits;
  private final List<Proof> proofs = new ArrayList<>();
  private final List<Integer> unknowns = new ArrayList<>();
  private final List<Stopped> stopped = new ArrayList<>();
  private final int node;
  private boolean more;

  RoleExplanation(RoleDecider decider, Token token, Question question, Limits limits) {
    this.decider = decider;
    this.token = token;
    this.question = question;
    this.limits = limits;
    this.node = question.resource();
  }

  Decision decision() {
    RoleProjection who = (RoleProjection) decider.project(token);
    Verdict verdict = decider.decide(who, question);
    for (int right : question.allOf()) {
      explain(who, right);
    }
    return new Decision(
        verdict, List.copyOf(proofs), List.copyOf(unknowns), List.copyOf(stopped), more);
  }

  private void explain(RoleProjection who, int right) {
    long top = -1;
    OptionalInt topGrant = OptionalInt.empty();
    OptionalInt denier = OptionalInt.empty();
    for (int grant : who.sure) {
      if (!decider.covers(grant, node)) {
        continue;
      }
      if (decider.classOf(grant) > top) {
        top = decider.classOf(grant);
        topGrant = OptionalInt.of(grant);
      }
      if (denier.isEmpty() && decider.denies(grant, right)) {
        denier = OptionalInt.of(grant);
      }
    }
    for (int grant : who.sure) {
      if (decider.covers(grant, node) && decider.allows(grant, right)) {
        if (denier.isPresent()) {
          stop(new Stopped(grant, right, Stopped.Reason.DENIED, denier));
        } else if (decider.classOf(grant) < top) {
          stop(new Stopped(grant, right, Stopped.Reason.NEARER, topGrant));
        } else {
          prove(grant, right);
        }
      }
    }
    for (int grant : who.perhaps) {
      boolean matters = decider.classOf(grant) >= top || decider.denies(grant, right);
      if (decider.covers(grant, node) && matters && !unknowns.contains(grant)) {
        unknowns.add(grant);
      }
    }
    inactive(right);
  }

  private void prove(int grant, int right) {
    if (proofs.size() >= limits.proofs()) {
      more = true;
      return;
    }
    List<FactRef> present =
        List.of(
            new FactRef.GrantFact(grant), new FactRef.RoleFact(decider.table.role[grant], right));
    List<FactRef> absent =
        switch (decider.combining.mode()) {
          case UNION -> List.of();
          case DENY_OVERRIDES -> List.of(new FactRef.NoDenyFact(node, right));
          case NEAREST -> List.of(new FactRef.NoNearerFact(node, grant));
        };
    proofs.add(new Proof(grant, right, present, absent));
  }

  private void stop(Stopped route) {
    if (stopped.size() >= limits.proofs()) {
      more = true;
    } else {
      stopped.add(route);
    }
  }

  /** Grants that would give the right if they were switched on or in their window. */
  private void inactive(int right) {
    IntList all = new IntList();
    IntList subjects = token.subjects().sure();
    for (int i = 0; i < subjects.size(); i++) {
      decider.table.collectAll(subjects.get(i), all);
    }
    all.sort();
    for (int i = 0; i < all.size(); i++) {
      int grant = all.get(i);
      boolean gives = decider.covers(grant, node) && decider.allows(grant, right);
      if (gives && !decider.table.activeAt(grant, token.asOf())) {
        stop(Stopped.of(grant, right, why(grant)));
      }
    }
  }

  private Stopped.Reason why(int grant) {
    if (!decider.table.on[grant]) {
      return Stopped.Reason.SWITCHED_OFF;
    }
    return token.asOf() < decider.table.from[grant] ? Stopped.Reason.NOT_YET : Stopped.Reason.OVER;
  }
}
