package mandala.server.job;

/**
 * A job has ended: done or failed.
 *
 * @param owner key of whoever began it
 * @param done whether it has a result
 */
public record JobEnded(String id, String owner, String title, boolean done) {}
