package org.sobercompass.core.system;

import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * How a system could be defined otherwise, by the numbers of the system. Each kind of system takes
 * those that it knows; see {@link AccessSystem#redefined}.
 */
public sealed interface Redefinition {
  /** Does what fits. */
  <T> T byKind(
      Function<ScopeLine, T> scope,
      Function<RegisterLine, T> register,
      Function<RoleText, T> role,
      Function<ListItem, T> item,
      Function<SettingText, T> setting);

  /** The setting, where it is one. */
  default Stream<Setting> settings() {
    return byKind(
        scope -> Stream.empty(),
        register -> Stream.empty(),
        role -> Stream.empty(),
        item -> Stream.empty(),
        written -> Stream.of(written.setting()));
  }

  /**
   * One more line of an admin scope that names a subject, or one less.
   *
   * @param scope the number of the scope
   * @param excepted whether the line excepts the subject; else it includes it
   * @param subject an account, group or unit
   * @param groups what a group stands for: object, members or both; empty for others
   * @param added whether the line is added; else it is taken out
   */
  record ScopeLine(int scope, boolean excepted, int subject, String groups, boolean added)
      implements Redefinition {
    @Override
    public <T> T byKind(
        Function<ScopeLine, T> scopes,
        Function<RegisterLine, T> register,
        Function<RoleText, T> role,
        Function<ListItem, T> item,
        Function<SettingText, T> setting) {
      return scopes.apply(this);
    }
  }

  /**
   * One more line of an application's register, or one less.
   *
   * @param added whether the line is added; else it is taken out
   */
  record RegisterLine(Enrolment line, boolean added) implements Redefinition {
    @Override
    public <T> T byKind(
        Function<ScopeLine, T> scope,
        Function<RegisterLine, T> lines,
        Function<RoleText, T> role,
        Function<ListItem, T> item,
        Function<SettingText, T> setting) {
      return lines.apply(this);
    }
  }

  /**
   * What a role allows in an area, or which roles it includes, is otherwise.
   *
   * @param role the number of the role
   * @param area the area; empty when it is about inclusions
   * @param words its level and actions there; none to have no entry of its own there; the ids of
   *     the roles that are included when it is about inclusions
   */
  record RoleText(int role, String area, List<String> words) implements Redefinition {
    /** Copies. */
    public RoleText {
      words = List.copyOf(words);
    }

    @Override
    public <T> T byKind(
        Function<ScopeLine, T> scope,
        Function<RegisterLine, T> register,
        Function<RoleText, T> roles,
        Function<ListItem, T> item,
        Function<SettingText, T> setting) {
      return roles.apply(this);
    }
  }

  /**
   * One more entry in the list of a resource; or one less of what is no grant, such as an entry for
   * what is made later.
   *
   * @param resource the number of the resource
   * @param text the entry, as the system writes it
   * @param added whether it is added; else it is taken out
   */
  record ListItem(int resource, String text, boolean added) implements Redefinition {
    /** One more. */
    public ListItem(int resource, String text) {
      this(resource, text, true);
    }

    @Override
    public <T> T byKind(
        Function<ScopeLine, T> scope,
        Function<RegisterLine, T> register,
        Function<RoleText, T> role,
        Function<ListItem, T> items,
        Function<SettingText, T> setting) {
      return items.apply(this);
    }
  }

  /** A setting is written otherwise in the file that defines the system. */
  record SettingText(Setting setting) implements Redefinition {
    @Override
    public <T> T byKind(
        Function<ScopeLine, T> scope,
        Function<RegisterLine, T> register,
        Function<RoleText, T> role,
        Function<ListItem, T> item,
        Function<SettingText, T> written) {
      return written.apply(this);
    }
  }
}
