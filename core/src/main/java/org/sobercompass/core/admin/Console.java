package org.sobercompass.core.admin;

import java.util.List;

/**
 * Where administrators work and as whom they must be connected.
 *
 * @param name what it is called
 * @param directories only accounts of these can be connected; none for all
 * @param hosts the hosts it is reached from; none when it is not said
 * @param signIn the kind of sign-in it asks for, in words; empty when it is not said
 */
public record Console(String name, List<String> directories, List<String> hosts, String signIn) {
  /** Nothing is asked. */
  public static final Console ANY = new Console("", List.of(), List.of(), "");

  /** Copies. */
  public Console {
    directories = List.copyOf(directories);
    hosts = List.copyOf(hosts);
  }
}
