package org.sobercompass.core.findings;

import org.sobercompass.core.admin.AdminGrant;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;

/** Stable keys of assignments of admin roles: role, to whom as written, scope. */
final class AdminGrantKeys {
  private AdminGrantKeys() {}

  /** The key of one of them. */
  static Key of(Administration all, int number) {
    AdminGrant grant = all.grants().get(number);
    String scope =
        grant.scope() == AdminGrant.EVERYTHING ? "" : "/" + all.scopes().get(grant.scope()).id();
    return new Key(
        KeyKind.ASSIGNMENT,
        "admin",
        all.roles().get(grant.role()).id() + "/" + grant.subjectText() + scope);
  }
}
