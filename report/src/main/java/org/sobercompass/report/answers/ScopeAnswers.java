package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.AdminModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.scope.AdminGrant;
import org.sobercompass.core.scope.AdminScope;
import org.sobercompass.core.store.NumberSet;
import org.sobercompass.report.data.AnswerTable;

/** Answers about admin scopes. Not thread-safe. */
public final class ScopeAnswers {
  private final AnswerContext ask;
  private final AdminModel roles;
  private final Facts facts;

  /** Answers over the admin roles of a workspace. */
  public ScopeAnswers(AnswerContext ask, AdminModel roles) {
    this.ask = ask;
    this.roles = roles;
    this.facts = ask.model().facts();
  }

  /** Who is in a scope, and by which line of it. */
  public AnswerTable scope(int number) {
    AdminScope scope = roles.scopes().all().get(number);
    AnswerTable.Builder sheet = ask.begin("scope/1", "object", "kind", "because of", "key");
    BitSet objects = roles.scopes().objects(number).bits();
    objects.stream()
        .forEach(
            o ->
                sheet.row(
                    Words.subject(facts, o),
                    facts.kind(o).words(),
                    String.join("; ", roles.scopes().reasons(number, o)),
                    facts.key(o).text()));
    int undefined = roles.scopes().undefined(number);
    if (undefined > 0) {
      sheet.note("Its filter is undefined for " + undefined + " objects, which are perhaps in it.");
    }
    for (AdminGrant grant : roles.administration().grants()) {
      if (grant.scope() == number) {
        sheet.note(
            roles.administration().roles().get(grant.role()).name()
                + " over it is given to "
                + (grant.subject() < 0
                    ? grant.subjectText() + " (missing)"
                    : Words.subject(facts, grant.subject()))
                + ".");
      }
    }
    return ask.about(
        sheet.heading(
            "The scope "
                + scope.name()
                + " holds "
                + AnswerContext.count(objects.cardinality(), "object", "objects")
                + "."),
        List.of());
  }

  /** All scopes, with how many are in each, what they share, and accounts in none. */
  public AnswerTable scopes() {
    AnswerTable.Builder sheet = ask.begin("scopes/1", "scope", "name", "objects", "shares with");
    List<AdminScope> all = roles.scopes().all();
    BitSet in = new BitSet();
    for (int s = 0; s < all.size(); s++) {
      List<String> shares = new ArrayList<>();
      NumberSet own = roles.scopes().objects(s);
      own.setIn(in);
      for (int other = 0; other < all.size(); other++) {
        int both = other == s ? 0 : own.common(roles.scopes().objects(other));
        if (both > 0) {
          shares.add(all.get(other).id() + " (" + both + ")");
        }
      }
      sheet.row(all.get(s).id(), all.get(s).name(), own.size(), String.join(", ", shares));
    }
    int none = facts.accounts() - in.get(0, facts.accounts()).cardinality();
    return ask.about(
        sheet.heading(
            AnswerContext.count(all.size(), "admin scope", "admin scopes")
                + "; "
                + AnswerContext.count(none, "account is", "accounts are")
                + " in none."),
        List.of());
  }
}
