/**
 * The snapshot: a model compiled for speed, built once and edited by changes. Its parts have rooms
 * of their own below; entry points {@link mandala.core.compiled.SnapshotBuild} and {@link
 * mandala.core.compiled.SnapshotEdit} (decision 002).
 */
@NullMarked
package mandala.core.compiled;

import org.jspecify.annotations.NullMarked;
