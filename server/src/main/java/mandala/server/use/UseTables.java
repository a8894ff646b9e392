package mandala.server.use;

import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.sql.Array;
import java.sql.Date;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.springframework.jdbc.core.ConnectionCallback;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/**
 * Writes use within a transaction that has the lock of {@link UseMonths}, and whose months are
 * prepared.
 */
@Component
class UseTables {

  private final JdbcTemplate database;

  UseTables(JdbcTemplate database) {
    this.database = database;
  }

  /** Copies records into a table of this transaction alone; needs no lock. */
  void stage(Reader records) {
    database.execute(
        """
        create temporary table use_staged (whose text, actor text, permission text, resource text,
          day date, count bigint, known boolean, told boolean) on commit drop
        """);
    database.execute(
        (ConnectionCallback<@Nullable Void>)
            connection -> {
              try {
                connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn("copy use_staged from stdin", records);
              } catch (IOException e) {
                throw new UncheckedIOException(e);
              }
              return null;
            });
    database.execute("analyze use_staged");
  }

  /**
   * Adds what is staged, strangers aside.
   *
   * @return the numbers of those whose use it is
   */
  Integer[] merge(int source) {
    database.update(
        """
        insert into use_name (kind, name)
        select kind, name from (
          select 0 as kind, whose as name from use_staged where known
          union select 0, actor from use_staged where known and actor <> ''
          union select 1, permission from use_staged where known
          union select 2, resource from use_staged where known) as named
        where not exists (
          select from use_name where use_name.kind = named.kind and use_name.name = named.name)
        """);
    database.update(
        """
        create temporary table use_numbered on commit drop as
        select whose.number as whose, permission.number as permission, resource.number as resource,
          coalesce(actor.number, 0) as actor, day, least(sum(count), 2147483647)::int as count
        from use_staged
          join use_name as whose on whose.kind = 0 and whose.name = use_staged.whose
          join use_name as permission
            on permission.kind = 1 and permission.name = use_staged.permission
          join use_name as resource on resource.kind = 2 and resource.name = use_staged.resource
          left join use_name as actor on actor.kind = 0 and actor.name = use_staged.actor
        where known
        group by 1, 2, 3, 4, 5
        """);
    database.update(
        """
        insert into use_day (whose, permission, resource, actor, source, day, count)
        select whose, permission, resource, actor, ?, day, count from use_numbered
        where exists (select from use_partition
          where month = date_trunc('month', use_numbered.day) and not rolled)
        order by 1, 2, 3, 4
        on conflict (whose, permission, resource, actor, source, day) do update
        set count = least(use_day.count::bigint + excluded.count, 2147483647)::int
        """,
        source);
    database.update(
        """
        insert into use_month (whose, permission, resource, actor, source, month, days, count)
        select whose, permission, resource, actor, ?, date_trunc('month', day)::date,
          bit_or(1 << (extract(day from day)::int - 1)), least(sum(count), 2147483647)::int
        from use_numbered
        where exists (select from use_partition
          where month = date_trunc('month', use_numbered.day) and rolled)
        group by 1, 2, 3, 4, 6
        on conflict (whose, permission, resource, actor, source, month) do update
        set days = use_month.days | excluded.days,
          count = least(use_month.count::bigint + excluded.count, 2147483647)::int
        """,
        source);
    Integer[] people =
        database.queryForObject(
            "select coalesce(array_agg(distinct whose), '{}') from use_numbered",
            (row, _) -> numbers(row.getArray(1)));
    return people == null ? new Integer[0] : people;
  }

  private static Integer[] numbers(Array array) throws SQLException {
    return Arrays.copyOf(
        (Object[]) array.getArray(), ((Object[]) array.getArray()).length, Integer[].class);
  }

  /** Keeps what is staged and not known to its sender, used or not. */
  void keepStrangers(int source, LocalDate today) {
    database.update(
        """
        insert into use_stranger (source, names, principal, permission, resource, acting_for, day,
          count, records, arrived, used)
        select ?, md5(concat_ws(chr(1), whose, actor, permission, resource)),
          case when actor = '' then whose else actor end, permission, resource,
          case when actor = '' then '' else whose end, day,
          least(sum(count), 2147483647)::int, count(*)::int, ?, known
        from use_staged where not told
        group by whose, actor, permission, resource, day, known
        on conflict (source, names, day, used) do update
        set count = least(use_stranger.count::bigint + excluded.count, 2147483647)::int,
          records = use_stranger.records + excluded.records
        """,
        source,
        Date.valueOf(today));
  }

  /**
   * Notes of the strangers that are staged now that they are used; what somebody else has taken up
   * since is staged no more.
   */
  void useStrangers(int source) {
    database.update(
        """
        delete from use_staged where not exists (
          select from use_stranger
          where use_stranger.source = ? and not used and use_stranger.day = use_staged.day
            and names = md5(concat_ws(chr(1), whose, actor, use_staged.permission,
              use_staged.resource)))
        """,
        source);
    database.update(
        """
        with found as (
          delete from use_stranger using use_staged
          where use_stranger.source = ? and not used and use_stranger.day = use_staged.day
            and names = md5(concat_ws(chr(1), whose, actor, use_staged.permission,
              use_staged.resource))
          returning use_stranger.*)
        insert into use_stranger (source, names, principal, permission, resource, acting_for, day,
          count, records, arrived, used)
        select source, names, principal, permission, resource, acting_for, day, count, records,
          arrived, true from found
        on conflict (source, names, day, used) do update
        set count = least(use_stranger.count::bigint + excluded.count, 2147483647)::int,
          records = use_stranger.records + excluded.records
        """,
        source);
  }

  /** Notes whose use was added without a batch. */
  void keepPeople(Integer[] people, Instant at) {
    database.update(
        "insert into use_batch (source, key, hash, at, sent_by, records, unknown, people)"
            + " values (?, ?, '', ?, ?, 0, 0, ?)",
        UseSources.OWN,
        UUID.randomUUID().toString(),
        at.atOffset(ZoneOffset.UTC),
        UseSources.OWN,
        people);
  }
}
