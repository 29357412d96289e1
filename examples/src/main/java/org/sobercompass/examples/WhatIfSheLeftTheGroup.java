package org.sobercompass.examples;

import java.nio.file.Path;
import java.util.List;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.findings.FindingWords;

/**
 * What an account would lose, and gain, by leaving a group: {@code WhatIf... DIR ACCOUNT GROUP}.
 */
public final class WhatIfSheLeftTheGroup {
  private WhatIfSheLeftTheGroup() {}

  public static void main(String[] args) {
    Organization organization = Organization.open(Path.of(args[0]));
    Preview preview = organization.preview(List.of(organization.names().leaving(args[1], args[2])));
    preview
        .effects()
        .ends()
        .forEach(effect -> System.out.println("loses " + words(organization, effect)));
    preview
        .effects()
        .gives()
        .forEach(effect -> System.out.println("gains " + words(organization, effect)));
    preview
        .end()
        .forEach(finding -> System.out.println("no longer: " + FindingWords.sentence(finding)));
  }

  private static String words(Organization organization, Effects.Effect effect) {
    SystemView view = organization.model().view(effect.system());
    return Words.permission(view, effect.right()) + " " + view.resources().name(effect.resource());
  }
}
