package org.sobercompass.core.scope;

import java.util.List;

/** What a system of admin roles shows besides what every system shows. */
public interface AdminRoles {
  /** The scopes, worked out. */
  Scopes scopes();

  /** The scopes as they are defined after what was changed. */
  List<AdminScope> defined();

  /** The roles as they are defined after what was changed. */
  List<AdminRole> adminRoles();

  /** Who has which role over what, as it stands after what was changed. */
  List<AdminGrant> given();
}
