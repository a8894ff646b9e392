package mandala.server.platform;

import io.github.bucket4j.Bandwidth;
import io.github.bucket4j.BucketConfiguration;
import io.github.bucket4j.distributed.BucketProxy;
import io.github.bucket4j.distributed.ExpirationAfterWriteStrategy;
import io.github.bucket4j.distributed.jdbc.PrimaryKeyMapper;
import io.github.bucket4j.postgresql.Bucket4jPostgreSQL;
import io.github.bucket4j.postgresql.PostgreSQLSelectForUpdateBasedProxyManager;
import java.time.Duration;
import javax.sql.DataSource;
import org.springframework.stereotype.Component;

/** Counts of what may be done in a while, in the database, so that all instances count together. */
@Component
public class Buckets {

  /** Maximum number of counts that are deleted at once. */
  private static final int BATCH = 1_000;

  private final PostgreSQLSelectForUpdateBasedProxyManager<String> buckets;

  Buckets(DataSource database) {
    buckets =
        Bucket4jPostgreSQL.selectForUpdateBasedBuilder(database)
            .table("sign_in_throttle")
            .idColumn("id")
            .stateColumn("state")
            .primaryKeyMapper(PrimaryKeyMapper.STRING)
            .expirationAfterWrite(
                ExpirationAfterWriteStrategy.basedOnTimeForRefillingBucketUpToMax(
                    Duration.ofMinutes(1)))
            .build();
  }

  /** Deletes the counts of buckets that are full again, which are as if they were not there. */
  public void deleteFull() {
    while (buckets.removeExpired(BATCH) == BATCH) {
      // there are more
    }
  }

  /**
   * {@return the bucket of an id}, which fills again evenly
   *
   * @param capacity how much it holds
   * @param whole in what time it is filled from empty
   */
  public BucketProxy of(String id, int capacity, Duration whole) {
    BucketConfiguration configuration =
        BucketConfiguration.builder()
            .addLimit(Bandwidth.builder().capacity(capacity).refillGreedy(capacity, whole).build())
            .build();
    return buckets.builder().build(id, () -> configuration);
  }
}
