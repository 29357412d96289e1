package org.sobercompass.examples;

import java.nio.file.Path;
import org.sobercompass.organization.Account;
import org.sobercompass.organization.Organization;

/**
 * Who holds a permission, and the shortest route of each: {@code WhoCanAndWhy DIR APP PERMISSION}.
 */
public final class WhoCanAndWhy {
  private WhoCanAndWhy() {}

  public static void main(String[] args) {
    Organization organization = Organization.open(Path.of(args[0]));
    String permission = args[1] + ":" + args[2];
    for (Account.Holder holder : organization.holders(permission, "")) {
      organization.ways(holder.account().login(), permission, "").forEach(System.out::println);
    }
  }
}
