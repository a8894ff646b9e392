package mandala.document;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.check.Fault;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.HeldLine;
import mandala.core.reconcile.Terms;
import org.jspecify.annotations.Nullable;

/** Reads what another system says its people hold, and what its terms mean: both as tables. */
public final class HeldReader {

  private HeldReader() {}

  /**
   * Which columns of a table have what.
   *
   * @param identity the column with who
   * @param entitlement the column with what
   * @param place the column with where, or null where the system has no places
   */
  public record Columns(String identity, String entitlement, @Nullable String place) {

    /** Columns that are named like what they have. */
    public static final Columns PLAIN = new Columns("identity", "entitlement", "place");
  }

  /**
   * Reads what is held; lines without somebody or something are faults, and left out.
   *
   * @param most how many faults make it stop reading
   * @return the faults, their paths beginning with {@code line 3:}; lines from 1
   * @throws IOException if the input cannot be read
   */
  public static List<Fault> read(InputStream in, Columns columns, int most, Consumer<HeldLine> sink)
      throws IOException {
    List<String> needed = new ArrayList<>(List.of(columns.identity(), columns.entitlement()));
    if (columns.place() != null) {
      needed.add(columns.place());
    }
    return TableReader.read(
        in,
        needed,
        most,
        row -> {
          int before = row.faults().size();
          String identity = row.key(columns.identity());
          String entitlement = row.key(columns.entitlement());
          if (row.faults().size() == before) {
            sink.accept(new HeldLine(identity, entitlement, row.cell(columns.place())));
          }
        });
  }

  /**
   * Terms that were read.
   *
   * @param faults none where the terms can be used
   */
  public record Read(Terms terms, List<Fault> faults) {
    /** Copies its list. */
    public Read {
      faults = List.copyOf(faults);
    }
  }

  /**
   * Reads what terms mean: a table with the columns {@code kind} ({@code person}, {@code
   * entitlement} or {@code place}), {@code theirs} and {@code ours}, a key. An entitlement may have
   * several lines, a permission each. A place's {@code below} is {@code yes} where all resources
   * below it belong to it; its {@code theirs} is empty for a system without places.
   *
   * @throws IOException if the input cannot be read
   */
  public static Read terms(InputStream in, Catalogue catalogue) throws IOException {
    return terms(in, catalogue, Naming.ALL);
  }

  /**
   * The same, for somebody: what they may not read is not there.
   *
   * @throws IOException if the input cannot be read
   */
  public static Read terms(InputStream in, Catalogue catalogue, Naming naming) throws IOException {
    Map<String, PrincipalKey> people = new HashMap<>();
    Map<String, List<PermissionKey>> entitlements = new HashMap<>();
    Map<String, Terms.Area> places = new HashMap<>();
    List<Fault> faults =
        TableReader.read(
            in,
            List.of("kind", "theirs", "ours"),
            Integer.MAX_VALUE,
            row -> {
              int before = row.faults().size();
              String kind = row.cell("kind");
              String theirs = kind.equals("place") ? row.cell("theirs") : row.key("theirs");
              String ours = row.key("ours");
              if (row.faults().size() > before) {
                return;
              }
              switch (kind) {
                case "person" -> {
                  PrincipalKey key = new PrincipalKey(ours);
                  check(
                      catalogue.principals().containsKey(key)
                          && naming.tells(Kind.PRINCIPALS, ours),
                      "person or service",
                      ours,
                      row);
                  check(people.put(theirs, key) == null, theirs, row);
                }
                case "entitlement" -> {
                  PermissionKey key = new PermissionKey(ours);
                  check(
                      catalogue.permissions().containsKey(key)
                          && naming.tells(Kind.PERMISSIONS, ours),
                      "permission",
                      ours,
                      row);
                  List<PermissionKey> all =
                      entitlements.computeIfAbsent(theirs, _ -> new ArrayList<>());
                  check(!all.contains(key), theirs, row);
                  all.add(key);
                }
                case "place" -> {
                  ResourceKey key = new ResourceKey(ours);
                  check(catalogue.has(key) && naming.tells(key), "place", ours, row);
                  Terms.Area area = new Terms.Area(key, isYes(row));
                  check(places.put(theirs, area) == null, theirs, row);
                }
                default ->
                    row.faults()
                        .add(
                            new Fault(
                                row.path() + "kind",
                                "'" + kind + "' is no kind of term",
                                "Write person, entitlement or place"));
              }
            });
    return new Read(new Terms(people, entitlements, places), faults);
  }

  private static void check(boolean there, String what, String key, TableReader.Row row) {
    if (!there) {
      row.faults()
          .add(
              new Fault(
                  row.path() + "ours",
                  "there is no " + what + " '" + key + "'",
                  "Write the key of one that the model has"));
    }
  }

  private static void check(boolean first, String theirs, TableReader.Row row) {
    if (!first) {
      row.faults()
          .add(
              new Fault(
                  row.path() + "theirs",
                  "'" + theirs + "' is given that meaning twice",
                  "Keep one of the lines"));
    }
  }

  private static boolean isYes(TableReader.Row row) {
    String below = row.cell("below");
    if (!below.isEmpty() && !below.equals("yes") && !below.equals("no")) {
      row.faults()
          .add(new Fault(row.path() + "below", "'" + below + "' is no answer", "Write yes or no"));
    }
    return below.equals("yes");
  }
}
