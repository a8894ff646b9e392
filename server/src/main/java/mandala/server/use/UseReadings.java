package mandala.server.use;

import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.sql.Connection;
import java.sql.Date;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseWindow;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.shrink.ShrinkOrder;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.copy.PGCopyInputStream;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Component;

/**
 * Reads use: of some principals from the tables, of all from memory, where one window is kept and
 * follows what comes in.
 */
@Component
public class UseReadings {

  /** Of what is copied out: the length of its head, up to the length of what follows in it. */
  private static final int HEADER = 15;

  /** Fields of a row. */
  private static final int FIELDS = 5;

  private static final int BUFFER = 1 << 17;

  /** Of more people than these whose use came in, all is read again. */
  private static final int FOLLOWED = 20_000;

  private final UseSources sources;
  private final JdbcTemplate database;
  private final DataSource source;
  private final ReentrantLock reading = new ReentrantLock();
  private volatile @Nullable Kept kept;

  UseReadings(UseSources sources, JdbcTemplate database, DataSource source) {
    this.sources = sources;
    this.database = database;
    this.source = source;
  }

  /** The use of everybody in one window, as of a batch. */
  private record Kept(LocalDate first, LocalDate last, long batch, Use use) {
    boolean isOf(UseWindow window) {
      return first.equals(window.first()) && last.equals(window.last());
    }
  }

  /** {@return what some principals used within a window, and what is observed} */
  public Use of(Collection<PrincipalKey> people, UseWindow window) {
    Map<Integer, String> whose = numbers(people);
    return read(window, whose.keySet()).observing(sources.coverage());
  }

  private Map<Integer, String> numbers(Collection<PrincipalKey> people) {
    Map<Integer, String> whose = new HashMap<>();
    database.query(
        "select number, name from use_name where kind = 0 and name = any (?)",
        row -> {
          whose.put(row.getInt(1), row.getString(2));
        },
        (Object) people.stream().map(PrincipalKey::value).toArray(String[]::new));
    return whose;
  }

  /** A right that was used on a day. */
  public record UsedOn(PermissionKey permission, ResourceKey resource, LocalDate day) {}

  /** {@return the days on which a principal used its rights within a window}, in no order */
  public List<UsedOn> days(PrincipalKey whose, UseWindow window) {
    return database.query(
        """
        select p.name, r.name, u.day from (
          select whose, permission, resource, day from use_day
          where day between ? and ?
          union all
          select whose, permission, resource, month + i from use_month
          cross join generate_series(0, 30) i
          where days & (1 << i) <> 0 and month between ? and ? and month + i between ? and ?
        ) u
        join use_name w on w.number = u.whose and w.kind = 0 and w.name = ?
        join use_name p on p.number = u.permission
        join use_name r on r.number = u.resource
        """,
        (row, _) ->
            new UsedOn(
                new PermissionKey(row.getString(1)),
                new ResourceKey(row.getString(2)),
                row.getDate(3).toLocalDate()),
        window.first(),
        window.last(),
        window.first().withDayOfMonth(1),
        window.last(),
        window.first(),
        window.last(),
        whose.value());
  }

  /** {@return what everybody used within a window, and what is observed} */
  public Use all(UseWindow window) {
    Kept known = kept;
    if (known == null || !known.isOf(window) || known.batch() < newest()) {
      reading.lock();
      try {
        known = following(kept, window);
        kept = known;
      } finally {
        reading.unlock();
      }
    }
    return known.use().observing(sources.coverage());
  }

  /** {@return a digest of all that readings rest on}: the same as long as they are */
  public String basis() {
    return Objects.requireNonNull(
        database.queryForObject(
            """
            select (select coalesce(max(id), 0) from use_batch)
              || ':' || (select own_since from use_policy)
              || ':' || (select md5(coalesce(string_agg(it::text, '|' order by key), ''))
                from use_source as it)
            """,
            String.class));
  }

  private long newest() {
    Long newest = database.queryForObject("select coalesce(max(id), 0) from use_batch", Long.class);
    return newest == null ? 0 : newest;
  }

  private Kept following(@Nullable Kept known, UseWindow window) {
    long newest = newest();
    if (known != null && known.isOf(window)) {
      if (known.batch() == newest) {
        return known;
      }
      Set<Integer> changed = changed(known.batch(), newest);
      if (changed.size() <= FOLLOWED) {
        Set<PrincipalKey> whose = new HashSet<>();
        names(0, changed).values().forEach(it -> whose.add(new PrincipalKey(it)));
        Use use = known.use().with(read(window, changed), whose);
        return new Kept(known.first(), known.last(), newest, use);
      }
    }
    return new Kept(window.first(), window.last(), newest, read(window, null));
  }

  private Set<Integer> changed(long after, long until) {
    Set<Integer> changed = new HashSet<>();
    database.query(
        "select distinct unnest(people) from use_batch where id > ? and id <= ?",
        row -> {
          changed.add(row.getInt(1));
        },
        after,
        until);
    return changed;
  }

  private Map<Integer, String> names(int kind, @Nullable Set<Integer> only) {
    Map<Integer, String> names = new HashMap<>();
    RowCallbackHandler row = it -> names.put(it.getInt(1), it.getString(2));
    if (only == null) {
      database.query("select number, name from use_name where kind = ?", row, kind);
    } else {
      database.query(
          "select number, name from use_name where kind = ? and number = any (?)",
          row,
          kind,
          only.toArray(Integer[]::new));
    }
    return names;
  }

  private Map<Integer, PermissionKey> permissions(@Nullable Set<Integer> only) {
    Map<Integer, PermissionKey> keys = new HashMap<>();
    names(1, only).forEach((number, name) -> keys.put(number, new PermissionKey(name)));
    return keys;
  }

  private Map<Integer, ResourceKey> resources(@Nullable Set<Integer> only) {
    Map<Integer, ResourceKey> keys = new HashMap<>();
    names(2, only).forEach((number, name) -> keys.put(number, new ResourceKey(name)));
    return keys;
  }

  private Use read(UseWindow window, @Nullable Set<Integer> whose) {
    Map<Integer, PrincipalKey> people = new HashMap<>();
    names(0, whose).forEach((number, name) -> people.put(number, new PrincipalKey(name)));
    Use.Builder builder = new Use.Builder();
    if (whose == null) {
      // what is new since the names were read comes with the next batch
      Map<Integer, PermissionKey> permissions = permissions(null);
      Map<Integer, ResourceKey> resources = resources(null);
      stream(
          window,
          null,
          it -> it.addTo(builder, people.get(it.whose()), permissions, resources, window));
    } else {
      List<Right> rights = new ArrayList<>();
      Set<Integer> seen = new HashSet<>();
      stream(
          window,
          whose,
          it -> {
            rights.add(it);
            seen.add(it.permission());
            seen.add(it.resource());
          });
      Map<Integer, PermissionKey> permissions = permissions(seen);
      Map<Integer, ResourceKey> resources = resources(seen);
      rights.forEach(
          it -> it.addTo(builder, people.get(it.whose()), permissions, resources, window));
    }
    return builder.build(UseCoverage.NOTHING);
  }

  /** A right by numbers, the last day that it was used, from the window's first, and the days. */
  private record Right(int whose, int permission, int resource, int last, int days) {

    void addTo(
        Use.Builder builder,
        @Nullable PrincipalKey who,
        Map<Integer, PermissionKey> permissions,
        Map<Integer, ResourceKey> resources,
        UseWindow window) {
      PermissionKey what = permissions.get(permission);
      ResourceKey where = resources.get(resource);
      if (who != null && what != null && where != null) {
        builder.add(who, what, where, window.first().plusDays(last), days);
      }
    }
  }

  /** Reads use of some, as numbers, or of all; the rows of one principal come together. */
  private void stream(UseWindow window, @Nullable Set<Integer> whose, Consumer<Right> sink) {
    Gathering into = new Gathering(window.days(), sink);
    String some =
        whose == null
            ? ""
            : "and whose = any ('{"
                + whose.stream().map(String::valueOf).collect(Collectors.joining(","))
                + "}')";
    copy(
        """
        select whose, permission, resource, day - date '%1$s', 1 from use_day
        where day between '%1$s' and '%2$s' %3$s
        union all
        select whose, permission, resource, month - date '%1$s', days from use_month
        where month between date_trunc('month', date '%1$s') and '%2$s' %3$s
        order by whose
        """
            .formatted(window.first(), window.last(), some),
        into);
    into.close();
  }

  /** Copies rows out: unlike what a cursor reads, they are sorted on several processors. */
  private void copy(String rows, Gathering into) {
    Connection connection = DataSourceUtils.getConnection(source);
    try (DataInputStream in =
        new DataInputStream(
            new BufferedInputStream(
                new PGCopyInputStream(
                    connection.unwrap(PGConnection.class),
                    "copy (" + rows + ") to stdout (format binary)"),
                BUFFER))) {
      in.skipNBytes(HEADER);
      in.skipNBytes(in.readInt());
      while (in.readShort() == FIELDS) {
        into.row(field(in), field(in), field(in), field(in), field(in));
      }
      in.transferTo(OutputStream.nullOutputStream());
    } catch (SQLException | IOException e) {
      throw new DataAccessResourceFailureException("Use could not be read", e);
    } finally {
      DataSourceUtils.releaseConnection(connection, source);
    }
  }

  /** An integer with its length before it. */
  private static int field(DataInputStream in) throws IOException {
    if (in.readInt() != Integer.BYTES) {
      throw new IOException("a field of another length than an integer's");
    }
    return in.readInt();
  }

  /** Rows as they come, those of one principal together. */
  private static final class Gathering {
    private final int most;
    private final Consumer<Right> sink;
    private final List<Row> rows = new ArrayList<>();
    private final BitSet days = new BitSet();
    private int whose = -1;

    /** Days of a right: bit 0 of the mask is the one so many after the window's first. */
    private record Row(int permission, int resource, int begin, int mask) {}

    Gathering(int most, Consumer<Right> sink) {
      this.most = most;
      this.sink = sink;
    }

    void row(int itsWhose, int permission, int resource, int begin, int mask) {
      if (itsWhose != whose) {
        close();
        whose = itsWhose;
      }
      rows.add(new Row(permission, resource, begin, mask));
    }

    void close() {
      rows.sort(Comparator.comparingInt(Row::permission).thenComparingInt(Row::resource));
      for (int i = 0; i < rows.size(); i++) {
        Row it = rows.get(i);
        add(it);
        Row next = i + 1 < rows.size() ? rows.get(i + 1) : null;
        boolean last =
            next == null
                || next.permission() != it.permission()
                || next.resource() != it.resource();
        if (last && !days.isEmpty()) {
          sink.accept(
              new Right(
                  whose, it.permission(), it.resource(), days.length() - 1, days.cardinality()));
          days.clear();
        }
      }
      rows.clear();
    }

    private void add(Row it) {
      for (int rest = it.mask(); rest != 0; rest &= rest - 1) {
        int day = it.begin() + Integer.numberOfTrailingZeros(rest);
        if (day >= 0 && day < most) {
          days.set(day);
        }
      }
    }
  }

  /** {@return what was done for others within a window} */
  public List<ShrinkOrder.Acted> acted(UseWindow window) {
    Set<ShrinkOrder.Acted> acted = new LinkedHashSet<>();
    Date first = Date.valueOf(window.first());
    Date last = Date.valueOf(window.last());
    database.query(
        """
        select distinct actor.name, whose.name, permission.name, resource.name from (
          select whose, actor, permission, resource from use_day
          where actor <> 0 and day between ? and ?
          union
          select whose, actor, permission, resource from use_month
          where actor <> 0 and month between date_trunc('month', ?::date) and ?
            and days & (case when month < ?::date then ? else -1 end)
              & (case when month = date_trunc('month', ?::date) then ? else -1 end) <> 0) as used
        join use_name as actor on actor.number = used.actor
        join use_name as whose on whose.number = used.whose
        join use_name as permission on permission.number = used.permission
        join use_name as resource on resource.number = used.resource
        order by 1, 2, 3, 4
        """,
        row -> {
          acted.add(
              new ShrinkOrder.Acted(
                  new PrincipalKey(row.getString(1)),
                  new PrincipalKey(row.getString(2)),
                  new PermissionKey(row.getString(3)),
                  new ResourceKey(row.getString(4))));
        },
        first,
        last,
        first,
        last,
        first,
        -1 << (window.first().getDayOfMonth() - 1),
        last,
        Integer.MAX_VALUE >>> (31 - window.last().getDayOfMonth()));
    return new ArrayList<>(acted);
  }
}
