package org.sobercompass.sources.live;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;

/** Passes bytes on to a server and cuts the first connections after so many bytes of answer. */
public final class CuttingProxy implements AutoCloseable {
  private final ServerSocket listening;
  private final int target;
  private final int after;
  private volatile int cuts;
  private volatile int connections;

  public CuttingProxy(int target, int after, int cuts) throws IOException {
    this.target = target;
    this.after = after;
    this.cuts = cuts;
    listening = new ServerSocket(0, 10, InetAddress.getLoopbackAddress());
    Thread thread = new Thread(this::serve);
    thread.setDaemon(true);
    thread.start();
  }

  public int port() {
    return listening.getLocalPort();
  }

  int connections() {
    return connections;
  }

  private void serve() {
    while (!listening.isClosed()) {
      try {
        Socket client = listening.accept();
        Socket server = new Socket(InetAddress.getLoopbackAddress(), target);
        connections++;
        boolean cut = cuts-- > 0;
        pass(client, server, Integer.MAX_VALUE);
        pass(server, client, cut ? after : Integer.MAX_VALUE);
      } catch (IOException e) {
        return;
      }
    }
  }

  private static void pass(Socket from, Socket to, int most) {
    Thread thread =
        new Thread(
            () -> {
              byte[] buffer = new byte[4096];
              int left = most;
              try (from;
                  to) {
                InputStream in = from.getInputStream();
                OutputStream out = to.getOutputStream();
                int got = 0;
                while (left > 0 && got >= 0) {
                  got = in.read(buffer);
                  if (got > 0) {
                    out.write(buffer, 0, Math.min(got, left));
                    out.flush();
                    left -= got;
                  }
                }
              } catch (IOException e) {
                // The other side closed; so do we.
              }
            });
    thread.setDaemon(true);
    thread.start();
  }

  @Override
  public void close() throws IOException {
    listening.close();
  }
}
