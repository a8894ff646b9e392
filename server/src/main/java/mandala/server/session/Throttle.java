package mandala.server.session;

import io.github.bucket4j.Bandwidth;
import io.github.bucket4j.BucketConfiguration;
import io.github.bucket4j.distributed.BucketProxy;
import io.github.bucket4j.distributed.jdbc.PrimaryKeyMapper;
import io.github.bucket4j.distributed.proxy.ProxyManager;
import io.github.bucket4j.postgresql.Bucket4jPostgreSQL;
import java.time.Duration;
import javax.sql.DataSource;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;

/**
 * Slows down guessing: each name and each address has so many failures in a while, counted in the
 * database so that all instances count together. A success gives a name its failures back.
 */
@Component
public class Throttle {

  private static final int FAILURES_A_NAME = 5;
  private static final int FAILURES_AN_ADDRESS = 50;
  private static final Duration WHILE = Duration.ofMinutes(10);

  private final ProxyManager<String> buckets;

  Throttle(DataSource database) {
    buckets =
        Bucket4jPostgreSQL.selectForUpdateBasedBuilder(database)
            .table("sign_in_throttle")
            .idColumn("id")
            .stateColumn("state")
            .primaryKeyMapper(PrimaryKeyMapper.STRING)
            .build();
  }

  private BucketProxy bucket(String id, int capacity) {
    BucketConfiguration configuration =
        BucketConfiguration.builder()
            .addLimit(Bandwidth.builder().capacity(capacity).refillGreedy(capacity, WHILE).build())
            .build();
    return buckets.builder().build(id, () -> configuration);
  }

  private BucketProxy byName(String name) {
    return bucket("name:" + name, FAILURES_A_NAME);
  }

  private BucketProxy byAddress(String address) {
    return bucket("address:" + address, FAILURES_AN_ADDRESS);
  }

  /**
   * Takes one attempt; it is given back by {@link #succeeded}.
   *
   * @throws Problem if there were too many failures
   */
  public void attempt(String name, String address) {
    if (!byName(name).tryConsume(1) || !byAddress(address).tryConsume(1)) {
      throw Problem.tooMany(
          "After too many failed attempts sign-in rests for some minutes. Wait two minutes, then"
              + " try again.");
    }
  }

  public void succeeded(String name, String address) {
    byName(name).reset();
    byAddress(address).addTokens(1);
  }
}
