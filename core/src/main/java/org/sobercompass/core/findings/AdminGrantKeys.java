package org.sobercompass.core.findings;

import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.scope.AdminGrant;

/**
 * Stable keys of assignments of admin roles: role, to whom as written, scope; of several alike, say
 * at different times, the later ones are numbered.
 */
public final class AdminGrantKeys {
  private AdminGrantKeys() {}

  /** The key of one of them. */
  public static Key of(Administration all, int number) {
    AdminGrant grant = all.grants().get(number);
    String scope =
        grant.scope() == AdminGrant.EVERYTHING ? "" : "/" + all.scopes().get(grant.scope()).id();
    int before = 0;
    for (int other = 0; other < number; other++) {
      before += isSame(all.grants().get(other), grant) ? 1 : 0;
    }
    String role = all.roles().get(grant.role()).id() + (before == 0 ? "" : "#" + (before + 1));
    return new Key(KeyKind.ASSIGNMENT, "admin", role + "/" + grant.subjectText() + scope);
  }

  /** Whether two give the same to the same, perhaps at other times. */
  private static boolean isSame(AdminGrant one, AdminGrant other) {
    return one.role() == other.role()
        && one.scope() == other.scope()
        && one.subjectText().equals(other.subjectText());
  }
}
