package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPURL;
import com.unboundid.ldap.sdk.SearchScope;
import java.util.Optional;
import org.sobercompass.core.facts.MemberRule;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.FilterSyntaxException;
import org.sobercompass.core.problem.Place;

/** Reads {@code memberURL}: an LDAP address (RFC 4516) that says who the members are. */
final class MemberUrl {
  private MemberUrl() {}

  /** The rule; empty when the address or its filter cannot be read. */
  static Optional<MemberRule> parse(String url, Place place) {
    try {
      LDAPURL parsed = new LDAPURL(url);
      String base = parsed.getBaseDN().toNormalizedString();
      return Optional.of(
          new MemberRule(
              base,
              scope(parsed.getScope()),
              FilterParser.parse(parsed.getFilter().toString()),
              place));
    } catch (LDAPException | FilterSyntaxException e) {
      return Optional.empty();
    }
  }

  /** Not said is the base alone (RFC 4516 section 2). */
  private static MemberRule.Scope scope(SearchScope scope) {
    return scope == SearchScope.SUB
        ? MemberRule.Scope.SUB
        : scope == SearchScope.ONE ? MemberRule.Scope.ONE : MemberRule.Scope.BASE;
  }
}
