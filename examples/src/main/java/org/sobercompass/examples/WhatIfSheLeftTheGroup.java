package org.sobercompass.examples;

import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.system.Change;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/**
 * What an account would lose, and gain, by leaving a group: {@code WhatIf... DIR ACCOUNT GROUP}.
 */
public final class WhatIfSheLeftTheGroup {
  private WhatIfSheLeftTheGroup() {}

  public static void main(String[] args) {
    AccessModel now = Workspace.open(Path.of(args[0])).model();
    int account = NameResolver.find(now.facts(), SubjectKind.ACCOUNT, args[1]).get(0);
    int group = NameResolver.find(now.facts(), SubjectKind.GROUP, args[2]).get(0);
    AccessModel then = now.with(List.of(new Change.MembershipRemoved(account, group, Via.MEMBER)));
    Set<String> before = words(now, account);
    Set<String> after = words(then, account);
    before.stream()
        .filter(w -> !after.contains(w))
        .sorted()
        .forEach(w -> System.out.println("loses " + w));
    after.stream()
        .filter(w -> !before.contains(w))
        .sorted()
        .forEach(w -> System.out.println("gains " + w));
  }

  private static Set<String> words(AccessModel model, int account) {
    Set<String> words = new HashSet<>();
    for (Holding holding : model.asker().holdings(account)) {
      var view = model.systems().get(holding.system());
      words.add(Words.permission(view, holding.right()) + " " + Words.place(view, holding));
    }
    return words;
  }
}
