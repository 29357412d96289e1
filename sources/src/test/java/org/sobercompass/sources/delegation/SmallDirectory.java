package org.sobercompass.sources.delegation;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/** A small directory with lists, written entry by entry, and what is asked of it. */
class SmallDirectory {
  static final String FULL = "CCDCLCSWRPWPDTLOCRSDRCWDWO";
  static final String RESET = "00299570-246d-11d0-a768-00aa006e0529";
  static final String USER = "bf967aba-0de6-11d0-a285-00aa003049e2";
  static final String MEMBER = "bf9679c0-0de6-11d0-a285-00aa003049e2";
  static final String DOMAIN = "S-1-5-21-7-8-9";

  @TempDir Path root;
  final StringBuilder ldif = new StringBuilder();
  final Problems problems = new Problems();

  void entry(String dn, String sddl, String... lines) {
    ldif.append("dn: ").append(dn).append('\n');
    for (String line : lines) {
      ldif.append(line).append('\n');
    }
    if (!sddl.isEmpty()) {
      ldif.append("nTSecurityDescriptor: ").append(sddl).append('\n');
    }
    ldif.append('\n');
  }

  void domain(String sddl) {
    entry("dc=x", sddl, "objectClass: domainDNS", "dc: x", "objectSid: " + DOMAIN);
  }

  void unit(String name, String sddl) {
    entry("ou=" + name + ",dc=x", sddl, "objectClass: organizationalUnit", "ou: " + name);
  }

  void user(String name, int rid, String unit, String sddl, String... more) {
    List<String> lines =
        new ArrayList<>(
            List.of(
                "objectClass: user",
                "sAMAccountName: " + name,
                "objectSid: " + DOMAIN + "-" + rid,
                "objectGUID: 00000000-0000-0000-0000-00000000" + rid));
    lines.addAll(List.of(more));
    entry("cn=" + name + ",ou=" + unit + ",dc=x", sddl, lines.toArray(String[]::new));
  }

  void group(String name, int rid, String sddl, String... members) {
    List<String> lines =
        new ArrayList<>(
            List.of(
                "objectClass: group",
                "sAMAccountName: " + name,
                "groupType: -2147483646",
                "objectSid: " + DOMAIN + "-" + rid,
                "objectGUID: 00000000-0000-0000-0000-00000000" + rid));
    for (String member : members) {
      lines.add("member: " + member);
    }
    entry("cn=" + name + ",ou=a,dc=x", sddl, lines.toArray(String[]::new));
  }

  static String sid(int rid) {
    return DOMAIN + "-" + rid;
  }

  Powers powers() throws IOException {
    Files.writeString(root.resolve("d.ldif"), ldif.toString());
    if (!Files.exists(root.resolve("compass.yaml"))) {
      Files.writeString(
          root.resolve("compass.yaml"), "directories: {main: {kind: ad, file: d.ldif}}\n");
    }
    Workspace workspace = Workspace.open(root);
    AccessModel model = workspace.model();
    return workspace.powers(model, problems);
  }

  static int account(Powers powers, String login) {
    return NameResolver.find(powers.model().facts(), SubjectKind.ACCOUNT, login).get(0);
  }

  static Powers.Thing thing(Powers powers, SubjectKind kind, String name) {
    return powers.thing(NameResolver.find(powers.model().facts(), kind, name).get(0));
  }

  static String can(Powers powers, String who, String action, Powers.Thing object) {
    AdminAction act = powers.roles().administration().action(action).orElseThrow();
    return powers.can(account(powers, who), act, object, Optional.empty()).name();
  }
}
