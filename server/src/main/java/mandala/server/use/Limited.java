package mandala.server.use;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import mandala.server.platform.Problem;

/** A body of which no more than so many bytes are read. */
final class Limited extends FilterInputStream {

  private final long most;
  private long left;

  Limited(InputStream in, long most) {
    super(in);
    this.most = most;
    left = most;
  }

  @Override
  public int read() throws IOException {
    int read = super.read();
    count(read < 0 ? 0 : 1);
    return read;
  }

  @Override
  public int read(byte[] into, int offset, int length) throws IOException {
    int read = super.read(into, offset, length);
    count(Math.max(read, 0));
    return read;
  }

  private void count(int read) {
    left -= read;
    if (left < 0) {
      throw Problem.tooLarge(
          "Batches of up to "
              + (most >> 20)
              + " MiB are taken here. Nothing was added. Split the batch, each part with a key of"
              + " its own.");
    }
  }

  /** Leaves it open: whoever reads a table closes what they read. */
  @Override
  public void close() {}
}
