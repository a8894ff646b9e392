package mandala.server.model;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.document.ThingDocument;
import org.jspecify.annotations.Nullable;

/**
 * A digest of a whole model that follows changes without reading the model again.
 *
 * <p>Each thing is hashed as a document writes it, with its kind (SHA-256). The hashes, sorted, lie
 * in buckets by their first bits; a bucket's digest is the hash of what lies in it, the model's
 * that of all buckets. Equal models have equal digests, whatever way led to them. A change costs a
 * hash of the thing, of one bucket and of all buckets' digests; a whole model is read once.
 * Immutable.
 */
final class ModelDigest {

  private static final int BITS = 12;
  private static final int BUCKETS = 1 << BITS;
  private static final int LENGTH = 32;

  private final byte[][] buckets;
  private final byte[][] digests;

  private ModelDigest(byte[][] buckets, byte[][] digests) {
    this.buckets = buckets;
    this.digests = digests;
  }

  /** {@return the digest of a model} */
  static ModelDigest of(AccessModel model) {
    byte[][] all = new byte[model.size()][];
    int n = 0;
    for (Kind kind : Kind.values()) {
      for (Thing thing : model.things(kind)) {
        all[n++] = hash(thing);
      }
    }
    Arrays.sort(all, Arrays::compareUnsigned);
    byte[][] buckets = new byte[BUCKETS][];
    byte[][] digests = new byte[BUCKETS][];
    int from = 0;
    for (int bucket = 0; bucket < BUCKETS; bucket++) {
      int to = from;
      while (to < all.length && bucketOf(all[to]) == bucket) {
        to++;
      }
      byte[] joined = new byte[(to - from) * LENGTH];
      for (int i = from; i < to; i++) {
        System.arraycopy(all[i], 0, joined, (i - from) * LENGTH, LENGTH);
      }
      buckets[bucket] = joined;
      digests[bucket] = sha().digest(joined);
      from = to;
    }
    return new ModelDigest(buckets, digests);
  }

  /**
   * {@return the digest of the model after some changes}
   *
   * @throws IllegalStateException if they remove what the model does not have
   */
  ModelDigest after(List<Change> changes) {
    byte[][] next = buckets.clone();
    byte[][] nextDigests = digests.clone();
    boolean[] touched = new boolean[BUCKETS];
    for (Change change : changes) {
      switch (change) {
        case Change.Added(Thing thing) -> put(thing, next, touched);
        case Change.Removed(Thing thing) -> take(thing, next, touched);
        case Change.Altered(Thing was, Thing is) -> {
          take(was, next, touched);
          put(is, next, touched);
        }
      }
    }
    for (int bucket = 0; bucket < BUCKETS; bucket++) {
      if (touched[bucket]) {
        nextDigests[bucket] = sha().digest(next[bucket]);
      }
    }
    return new ModelDigest(next, nextDigests);
  }

  private static void put(Thing thing, byte[][] buckets, boolean[] touched) {
    byte[] hash = hash(thing);
    int bucket = bucketOf(hash);
    byte[] old = buckets[bucket];
    int at = place(old, hash) * LENGTH;
    byte[] fresh = new byte[old.length + LENGTH];
    System.arraycopy(old, 0, fresh, 0, at);
    System.arraycopy(hash, 0, fresh, at, LENGTH);
    System.arraycopy(old, at, fresh, at + LENGTH, old.length - at);
    buckets[bucket] = fresh;
    touched[bucket] = true;
  }

  private static void take(Thing thing, byte[][] buckets, boolean[] touched) {
    byte[] hash = hash(thing);
    int bucket = bucketOf(hash);
    byte[] old = buckets[bucket];
    int at = place(old, hash) * LENGTH;
    if (at >= old.length || !Arrays.equals(old, at, at + LENGTH, hash, 0, LENGTH)) {
      throw new IllegalStateException("Impossible state: the digest lacks " + thing.key());
    }
    byte[] fresh = new byte[old.length - LENGTH];
    System.arraycopy(old, 0, fresh, 0, at);
    System.arraycopy(old, at + LENGTH, fresh, at, fresh.length - at);
    buckets[bucket] = fresh;
    touched[bucket] = true;
  }

  /** The first entry of a bucket that is not before a hash. */
  private static int place(byte[] bucket, byte[] hash) {
    int from = 0;
    int to = bucket.length / LENGTH;
    while (from < to) {
      int middle = (from + to) >>> 1;
      int order =
          Arrays.compareUnsigned(bucket, middle * LENGTH, (middle + 1) * LENGTH, hash, 0, LENGTH);
      if (order < 0) {
        from = middle + 1;
      } else {
        to = middle;
      }
    }
    return from;
  }

  private static int bucketOf(byte[] hash) {
    return ((hash[0] & 0xff) << (BITS - 8)) | ((hash[1] & 0xff) >>> (16 - BITS));
  }

  private static byte[] hash(Thing thing) {
    String text = Kind.of(thing).field() + "\n" + ThingDocument.write(thing);
    return sha().digest(text.getBytes(java.nio.charset.StandardCharsets.UTF_8));
  }

  private static MessageDigest sha() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("Impossible state: no SHA-256", e);
    }
  }

  /** {@return the digest}, in hexadecimal */
  String hex() {
    MessageDigest all = sha();
    for (byte[] digest : digests) {
      all.update(digest);
    }
    return HexFormat.of().formatHex(all.digest());
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other instanceof ModelDigest that && hex().equals(that.hex());
  }

  @Override
  public int hashCode() {
    return hex().hashCode();
  }
}
