package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.WrittenRole;

/** Steps that write one role of an application otherwise. Immutable and thread-safe. */
public final class RoleSteps {
  private final String application;
  private final WrittenRole role;

  private RoleSteps(String application, WrittenRole role) {
    this.application = application;
    this.role = role;
  }

  /** For a role of a system, by its number; empty where roles are not written. */
  public static Optional<RoleSteps> of(SystemView view, int role) {
    List<WrittenRole> written = view.system().written();
    return written.isEmpty()
        ? Optional.empty()
        : Optional.of(new RoleSteps(view.id(), written.get(role)));
  }

  /** The role allows this in an area: a level and actions; nothing for no entry of its own. */
  public Step allowing(String area, List<String> words) {
    return new Step.Role(application, role.id(), area, role.own(area), words);
  }

  /** The ids of the roles it includes. */
  public List<String> includes() {
    return role.includes();
  }

  /** The role includes these besides, and those no more. */
  public Step including(List<String> more, List<String> less) {
    List<String> includes = new ArrayList<>(role.includes());
    includes.removeAll(less);
    more.stream().filter(one -> !includes.contains(one)).forEach(includes::add);
    return new Step.Role(application, role.id(), "", role.includes(), includes);
  }
}
