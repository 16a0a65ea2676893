/* Exact hidden lines of solids: which parts of their edges and outlines are seen from a direction.

   What is seen along a line changes only where its image crosses the image of a contour that is
   nearer: a convex edge between a face toward and a face away from the viewer, or the outline of a
   convex round face. So lines are cut there, and each piece between cuts is looked at once, along
   sight lines beside its middle.

   Coordinates in here: x and y on the picture, z toward the viewer; mm. The picture is turned by
   an odd angle, so that ends seldom share a height. `sight.py` tells how it is called.

   Sources: facing n.d of planes, cylinders, cones and balls is linear in the point, after the
   equations of the quadrics; a crossing of two ellipses is a root of a trigonometric polynomial of
   degree 2; whether a point lies in a face is told by the parity of its borders on one side. */

#include <math.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>

enum { PLANE, CYLINDER, CONE, BALL, TORUS, FREE }; /* faces; FREE: given by a net of places */
enum { STRAIGHT, ARC, SAMPLED };                  /* lines */
enum { VISIBLE = 1, WHOLE = 2 };   /* of a piece: `WHOLE` is all of its edge */
enum { LONE = 1, FLAT = 2, ALL = 4 }; /* of a line: one face beside it is seen; one is seen edge-on;
                                         it is all of its edge */
enum { SEAM = 1, SMOOTH = 2, CONVEX = 4, UNSURE = 8 }; /* edges */

/* Tolerances; each with its dimension, as in tolerance.py. */
static const double EDGE_ON = 1e-7;     /* n.d of a face that is neither front nor back */
static const double LEVEL = 1e-5;       /* the same of a free face, whose normals are sampled */
static const double BESIDE = 2e-5;      /* mm: sight lines run so far to each side of a line */
static const double UNDER = 3e-5;       /* mm: a line may lie so far under its own round faces, */
static const double UNDER_CHORD = 3e-3; /* mm: and so far between its samples */
static const double NEARER = 1e-3;      /* mm: what hides is nearer by so much */
static const double TURN_NEARER = 0.02; /* mm: an outline that ends so near to an edge's turn ends there */
static const double NET_NEARER = 0.01;  /* mm: the same of a free face, whose net is off by less */
static const double NET_BEND = 60;      /* radius of a free face over the size of a quad, for that */
static const double ABOVE = 1e-6;       /* mm: a contour that cuts is nearer by so much */
static const double SAG = 1e-3;         /* mm: how far an outline of a ring lies off its samples */
static const double SHORTEST = 1e-5;    /* mm: pieces below this are rounding */
static const double ROOT = 1e-7;        /* of a parameter: ends within this are one */
static const double TOUCH = 1e-5;       /* mm: a crossing so far beyond an end still counts */

static const double MIDDLE = 0.4683;    /* share of a piece where it is looked at: what is symmetric
                                           has its ends and crossings at even shares */
static const double TURN = 6.283185307179586;
static const double HALF = 3.141592653589793;

typedef struct {
    int32_t faces, edges, uses;
    const int32_t *face_kind;
    const double *frame;     /* faces x 12: place, x, y, z */
    const double *sizes;     /* faces x 2: radius; half angle of a cone or radius of a ring's tube */
    const double *sign;      /* +1 where the outward normal is the surface's, in its frame */
    const double *uv;        /* faces x 4: bounds of the surface's parameters */
    const uint8_t *is_whole; /* whether a face fills these bounds */
    const uint8_t *is_sheet; /* whether both of its sides are seen */
    const uint8_t *has_apex;
    const int32_t *ring_start; /* faces + 1: borders in parameters, of those that are not whole */
    const double *rings;       /* n x 4: u, v to u, v */
    const int32_t *edge_kind;
    const double *curve;     /* edges x 9: place and two axes, of points O + tA or O + A cos + B sin */
    const double *span;      /* edges x 2 */
    const int32_t *beside;   /* edges x 2: faces, -1 for none */
    const uint8_t *reversed; /* edges x 2: whether the edge runs against the face's way round */
    const uint8_t *flags;
    const int32_t *sample_start; /* edges + 1 */
    const double *samples;       /* n x 3 */
    const int32_t *use;          /* uses x 2: face and edge */
    const int32_t *net_start;    /* faces + 1: of free faces, in `net` */
    const int32_t *net_size;     /* faces x 2: places along u and along v, evenly over the bounds */
    const double *net;           /* n x 6: a place and the outward normal there */
    const int32_t *lean_start;   /* 2 edges + 1: normals of free faces along their edges */
    const double *lean;          /* n x 3: evenly over the edge's span */
    const int32_t *body;         /* faces: the body that each belongs to */
    int32_t bodies;
    const double *body_box;      /* bodies x 6: lowest and highest corner in space */
} Solid;

typedef struct {
    int32_t pieces, lines, points;
    int32_t *line;          /* of each piece */
    double *from_to;        /* pieces x 2: parameters */
    uint8_t *sight;          /* of each piece: VISIBLE, WHOLE */
    int32_t *kind, *edge, *face; /* of each line: edge -1 for the outline of a face */
    double *reach;               /* lines x 2: from where to where */
    uint8_t *mark;               /* lines: LONE, FLAT, ALL */
    double *curve;               /* lines x 9, in space */
    int32_t *point_start;        /* lines + 1 */
    double *point;               /* points x 3, in space, of sampled outlines */
} Seen;

typedef struct { double x, y, z; } Vec;

typedef struct {
    int32_t kind, edge, face[2], own;  /* `own`: its first sample among those of its own, or -1 */
    Vec o, a, b;
    double from, to;
    uint8_t contour, open, smooth, mark; /* `open`: it may be seen */
    uint8_t in_outline;                /* a smooth edge in the outline of a face */
} Line;

typedef struct { int32_t line, type; double from, to; Vec p, q; double box[4]; double phase, side; }
    Part;                              /* a part of a line: straight on the picture, or an arc */

typedef struct { int32_t edge, face; double t; } Turn; /* where a face beside an edge turns away */
typedef struct { int32_t line; double t; } Cut;
typedef struct { int32_t line; double from, to; uint8_t visible; } Piece;

typedef struct {
    int32_t face, edge;                /* edge -1: straight */
    double x0, y0, x1, y1, side, phase, radius;
} Border;                              /* of a plane face, monotone in height */

typedef struct { double left, low, across, up; int32_t n; int32_t *start, *item; } Grid;

typedef struct { int32_t face, i, j; } Quad;           /* of a net: its corner's number along u, v */

typedef struct {
    const Solid *s;
    double r[9];
    Vec *c, *x, *y, *zz, *c0, *w, *eo, *ea, *eb, *sr;
    double *nd;
    double *flo, *fhi;                 /* boxes of faces, x 3 */
    Turn *turn; int32_t turns, turn_room;
    Line *line; int32_t lines, line_room;
    Vec *own; int32_t owns, own_room;
    Part *part; int32_t parts, part_room;
    Cut *cut; int32_t cuts, cut_room;
    Piece *piece; int32_t pieces, piece_room;
    Border *border; int32_t borders, border_room;
    int32_t *front; int32_t fronts;    /* faces that hide */
    int32_t *slab0, *slab_start, *slab_item;
    Grid grid;
    Vec *place; double *front_of;      /* of each place of the nets: turned, and n.d */
    double *lean;                      /* n.d of the normals along edges */
    Quad *quad; int32_t quads, quad_room;
    Grid mesh;                         /* the quads that may hide */
    void *kept[64]; int32_t keeps;
    int failed;
} View;

/* --- memory ----------------------------------------------------------------------------------- */

static void *room(View *v, size_t size) {
    void *made = v->keeps < 64 ? calloc(1, size ? size : 1) : NULL;
    if (!made) { v->failed = 1; return NULL; }
    v->kept[v->keeps++] = made;
    return made;
}

/* Make room for one more; on failure the last one is written over and the view has failed. */
static void *grown(View *v, void *old, int32_t count, int32_t *have, size_t size) {
    if (count < *have) return old;
    int32_t more = *have ? 2 * *have : 256;
    void *made = realloc(old, (size_t)more * size);
    if (!made) { v->failed = 1; return old; }
    *have = more;
    return made;
}

#define ADD(v, array, count, have, item) do { \
    (v)->array = grown((v), (v)->array, (v)->count, &(v)->have, sizeof *(v)->array); \
    if ((v)->array && (v)->count < (v)->have) (v)->array[(v)->count++] = (item); \
} while (0)

/* --- vectors ---------------------------------------------------------------------------------- */

static Vec vec(double x, double y, double z) { Vec v = {x, y, z}; return v; }
static Vec plus(Vec a, double k, Vec b) { return vec(a.x + k * b.x, a.y + k * b.y, a.z + k * b.z); }
static Vec minus(Vec a, Vec b) { return vec(a.x - b.x, a.y - b.y, a.z - b.z); }
static double dot(Vec a, Vec b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
static Vec cross(Vec a, Vec b) {
    return vec(a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x);
}
static double length(Vec a) { return sqrt(dot(a, a)); }
static double least(double a, double b) { return a < b ? a : b; }
static double most(double a, double b) { return a > b ? a : b; }
static double within(double t, double low, double high) { return least(most(t, low), high); }

static Vec turned(const double *r, const double *p) {
    return vec(r[0] * p[0] + r[1] * p[1] + r[2] * p[2], r[3] * p[0] + r[4] * p[1] + r[5] * p[2],
               r[6] * p[0] + r[7] * p[1] + r[8] * p[2]);
}

/* Back into space, without the last rounding of having been turned there and back. */
static void turned_back(const double *r, Vec p, double *to) {
    for (int k = 0; k < 3; k++) {
        double at = r[k] * p.x + r[3 + k] * p.y + r[6 + k] * p.z;
        to[k] = nearbyint(at * 1e10) / 1e10 + 0.0;
    }
}

/* An angle moved to the first place from `low` on; NaN where that is beyond `high`. */
static double wrapped(double t, double low, double high, double slack) {
    t += TURN * ceil((low - slack - t) / TURN);
    return t <= high + slack ? t : NAN;
}

/* --- faces ------------------------------------------------------------------------------------ */

static void turn_faces(View *v) {
    const Solid *s = v->s;
    for (int32_t f = 0; f < s->faces; f++) {
        const double *frame = s->frame + 12 * f;
        v->c[f] = turned(v->r, frame);
        v->x[f] = turned(v->r, frame + 3);
        v->y[f] = turned(v->r, frame + 6);
        v->zz[f] = turned(v->r, frame + 9);
        double radius = s->sizes[2 * f], angle = s->sizes[2 * f + 1], sign = s->sign[f];
        Vec z = v->zz[f];
        v->c0[f] = v->c[f];
        v->w[f] = vec(0, 0, 0);
        v->nd[f] = 0;
        if (s->face_kind[f] == PLANE) {
            v->nd[f] = sign * z.z;
        } else if (s->face_kind[f] == BALL) {
            v->w[f].z = sign / radius;
        } else if (s->face_kind[f] == CYLINDER) {
            v->w[f] = plus(vec(0, 0, 1), -z.z, z);
            v->w[f] = plus(vec(0, 0, 0), sign / radius, v->w[f]);
        } else if (s->face_kind[f] == CONE) {
            double c = cos(angle), n = sin(angle);
            double widest = most(fabs(radius + s->uv[4 * f + 2] * n),
                                 fabs(radius + s->uv[4 * f + 3] * n));
            Vec across = plus(vec(0, 0, 1), -z.z, z);
            Vec w = plus(vec(0, 0, 0), c, across);
            w = plus(w, -n * n / c * z.z, z);
            v->w[f] = plus(vec(0, 0, 0), sign / widest, w);
            v->c0[f] = plus(v->c[f], -radius / tan(angle), z);
        }
    }
}

/* The outward normal of a face at a point of it. */
static Vec normal_at(const View *v, int32_t f, Vec p) {
    const Solid *s = v->s;
    if (s->face_kind[f] == PLANE) return plus(vec(0, 0, 0), s->sign[f], v->zz[f]);
    Vec d = minus(p, v->c[f]);
    double h = dot(d, v->zz[f]);
    Vec out = s->face_kind[f] == BALL ? d : plus(d, -h, v->zz[f]);
    out = plus(vec(0, 0, 0), 1 / most(length(out), 1e-12), out);
    if (s->face_kind[f] == CONE) {
        double angle = s->sizes[2 * f + 1];
        out = plus(plus(vec(0, 0, 0), cos(angle), out), -sin(angle), v->zz[f]);
    } else if (s->face_kind[f] == TORUS) {
        out = plus(d, -s->sizes[2 * f], out);
        out = plus(vec(0, 0, 0), 1 / most(length(out), 1e-12), out);
    }
    return plus(vec(0, 0, 0), s->sign[f], out);
}

/* The change from step to step of a row of figures: by five of them, exact to the fourth power. */
static double change(const double *f, int32_t i, int32_t n, int32_t step) {
    static const double at[5][5] = {{-25, 48, -36, 16, -3}, {-3, -10, 18, -6, 1}, {1, -8, 0, 8, -1},
                                    {-1, 6, -18, 10, 3}, {3, -16, 36, -48, 25}};
    if (n < 5) return i < n - 1 ? f[(i + 1) * step] - f[i * step] : f[i * step] - f[(i - 1) * step];
    int32_t first = i < 2 ? 0 : i > n - 3 ? n - 5 : i - 2;
    double sum = 0;
    for (int k = 0; k < 5; k++) sum += at[i - first][k] * f[(first + k) * step];
    return sum / 12;
}

/* A row of figures between two of them, `t` of the way from number i to the next: Hermite's cubic. */
static double between(const double *f, int32_t i, int32_t n, int32_t step, double t) {
    double s = 1 - t, a = f[i * step], b = f[(i + 1) * step];
    double da = change(f, i, n, step), db = change(f, i + 1, n, step);
    return s * s * ((1 + 2 * t) * a + t * da) + t * t * ((3 - 2 * t) * b - s * db);
}

/* How a free face beside an edge leans toward the viewer, along the edge. */
static double lean_along(const View *v, int32_t e, int k, double t) {
    int32_t first = v->s->lean_start[2 * e + k], steps = v->s->lean_start[2 * e + k + 1] - first - 1;
    if (steps < 1) return 0;
    const double *span = v->s->span + 2 * e;
    double at = within((t - span[0]) / most(span[1] - span[0], 1e-12), 0, 1) * steps;
    int32_t i = (int32_t)least(at, steps - 1);
    return between(v->lean + first, i, steps + 1, 1, at - i);
}

/* How a face leans toward the viewer at a point of it: n.d, but for a factor above 0. */
static double facing(const View *v, int32_t f, Vec p) {
    if (v->s->face_kind[f] == PLANE) return v->nd[f];
    if (v->s->face_kind[f] == TORUS) return normal_at(v, f, p).z;
    return dot(minus(p, v->c0[f]), v->w[f]);
}

/* The parameters of a point of a round face. */
static void parameters(const View *v, int32_t f, Vec p, double *u, double *w) {
    const Solid *s = v->s;
    Vec d = minus(p, v->c[f]);
    double x = dot(d, v->x[f]), y = dot(d, v->y[f]), h = dot(d, v->zz[f]);
    *u = atan2(y, x);
    if (s->face_kind[f] == BALL) *w = asin(within(h / s->sizes[2 * f], -1, 1));
    else if (s->face_kind[f] == TORUS) *w = atan2(h, hypot(x, y) - s->sizes[2 * f]);
    else if (s->face_kind[f] == CONE) *w = h / cos(s->sizes[2 * f + 1]);
    else *w = h;
}

/* Whether parameters of a surface lie in the face. */
static int inside_at(const View *v, int32_t f, double u, double w) {
    const Solid *s = v->s;
    const double *bound = s->uv + 4 * f;
    if (s->face_kind[f] == TORUS) w += TURN * ceil((bound[2] - 1e-9 - w) / TURN);
    if (w < bound[2] - 1e-9 || w > bound[3] + 1e-9) return 0;
    if (s->face_kind[f] != FREE) u += TURN * ceil((bound[0] - 1e-9 - u) / TURN);
    if (u < bound[0] - 1e-9 || u > bound[1] + 1e-9) return 0;
    if (s->is_whole[f]) return 1;
    /* what lies on the bounds, as an outline along a seam does, lies in the face */
    double in_u = 1e-12 * (bound[1] - bound[0]), in_w = 1e-12 * (bound[3] - bound[2]);
    u = within(u, bound[0] + in_u, bound[1] - in_u);
    w = within(w, bound[2] + in_w, bound[3] - in_w);
    int odd = 0;
    for (int32_t k = s->ring_start[f]; k < s->ring_start[f + 1]; k++) {
        const double *side = s->rings + 4 * k;
        if ((side[1] > w) != (side[3] > w) &&
            side[0] + (w - side[1]) / (side[3] - side[1]) * (side[2] - side[0]) > u)
            odd = !odd;
    }
    return odd;
}

/* Whether a point of the surface of a round face lies in the face. */
static int inside(const View *v, int32_t f, Vec p) {
    double u, w;
    parameters(v, f, p, &u, &w);
    return inside_at(v, f, u, w);
}

/* --- lines ------------------------------------------------------------------------------------ */

static const Vec *points_of(const View *v, const Line *l) {
    return l->own >= 0 ? v->own + l->own : v->sr + v->s->sample_start[l->edge];
}

/* A point of a line and its way there, which is no unit. */
static Vec place(const View *v, const Line *l, double t, Vec *way) {
    if (l->kind == STRAIGHT) {
        if (way) *way = l->a;
        return plus(l->o, t, l->a);
    }
    if (l->kind == ARC) {
        double c = cos(t), n = sin(t);
        if (way) *way = plus(plus(vec(0, 0, 0), -n, l->a), c, l->b);
        return plus(plus(l->o, c, l->a), n, l->b);
    }
    const Vec *at = points_of(v, l);
    int32_t last = (int32_t)l->o.x;    /* of a sampled line: how many steps it has */
    int32_t i = (int32_t)within(floor(t), 0, last - 1);
    Vec step = minus(at[i + 1], at[i]);
    if (way) *way = step;
    return plus(at[i], t - i, step);
}

static Line edge_line(const View *v, int32_t e) {
    Line l;
    memset(&l, 0, sizeof l);
    l.kind = v->s->edge_kind[e];
    l.edge = e;
    l.own = -1;
    l.face[0] = v->s->beside[2 * e];
    l.face[1] = v->s->beside[2 * e + 1];
    l.o = v->eo[e];
    l.a = v->ea[e];
    l.b = v->eb[e];
    if (l.kind == SAMPLED)
        l.o.x = v->s->sample_start[e + 1] - v->s->sample_start[e] - 1;
    l.from = v->s->span[2 * e];
    l.to = v->s->span[2 * e + 1];
    l.smooth = (v->s->flags[e] & SMOOTH) != 0;
    return l;
}

static void turn_edges(View *v) {
    const Solid *s = v->s;
    for (int32_t e = 0; e < s->edges; e++) {
        v->eo[e] = turned(v->r, s->curve + 9 * e);
        v->ea[e] = turned(v->r, s->curve + 9 * e + 3);
        v->eb[e] = turned(v->r, s->curve + 9 * e + 6);
    }
    for (int32_t k = 0; k < s->sample_start[s->edges]; k++)
        v->sr[k] = turned(v->r, s->samples + 3 * k);
}

/* --- where faces beside edges turn away --------------------------------------------------------- */

static void add_turn(View *v, int32_t e, int32_t f, double t) {
    Turn turn = {e, f, t};
    ADD(v, turn, turns, turn_room, turn);
}

static double facing_along(const View *v, const Line *l, int32_t e, int k, double t) {
    int32_t f = v->s->beside[2 * e + k];
    if (v->s->face_kind[f] == FREE) return lean_along(v, e, k, t);
    return facing(v, f, place(v, l, t, NULL));
}

/* By sign changes at samples: sampled edges, and edges of rings and of free faces. */
static void turns_by_steps(View *v, const Line *l, int32_t e, int k) {
    int32_t f = v->s->beside[2 * e + k], steps = 48;
    int exact = l->kind != SAMPLED || v->s->face_kind[f] == FREE;
    if (!exact) steps = (int32_t)l->o.x;
    if (v->s->face_kind[f] == FREE)
        steps = v->s->lean_start[2 * e + k + 1] - v->s->lean_start[2 * e + k] - 1;
    double last = 0, h = (l->to - l->from) / steps;
    for (int32_t i = 0; i <= steps; i++) {
        double now = facing_along(v, l, e, k, l->from + i * h);
        if (fabs(now) < 1e-9) now = 1e-9;
        if (i && (now > 0) != (last > 0)) {
            double low = l->from + (i - 1) * h, high = low + h, under = last;
            for (int32_t step = 0; step < 40 && exact; step++) {
                double middle = (low + high) / 2, there = facing_along(v, l, e, k, middle);
                if ((there > 0) == (under > 0)) low = middle; else high = middle;
            }
            add_turn(v, e, f, exact ? (low + high) / 2 : low + h * last / (last - now));
        }
        last = now;
    }
}

static void turns_along(View *v, int32_t e, int k) {
    Line l = edge_line(v, e);
    int32_t f = v->s->beside[2 * e + k];
    if (l.kind == SAMPLED || v->s->face_kind[f] >= TORUS) { turns_by_steps(v, &l, e, k); return; }
    double c = dot(minus(l.o, v->c0[f]), v->w[f]), a = dot(l.a, v->w[f]), b = dot(l.b, v->w[f]);
    if (l.kind == STRAIGHT) {
        double t = -c / a;
        if (fabs(a) > 1e-9 && t > l.from - ROOT && t < l.to + ROOT) add_turn(v, e, f, t);
        return;
    }
    double m = hypot(a, b);
    if (m <= 1e-9 || fabs(c) >= m) return;
    double phase = atan2(b, a), off = acos(-c / m);
    for (int side = -1; side <= 1; side += 2) {
        double t = wrapped(phase + side * off, l.from, l.to, ROOT);
        if (!isnan(t)) add_turn(v, e, f, t);
    }
}

static void find_turns(View *v) {
    for (int32_t e = 0; e < v->s->edges; e++)
        for (int k = 0; k < 2; k++) {
            int32_t f = v->s->beside[2 * e + k];
            if (f >= 0 && v->s->face_kind[f] != PLANE) turns_along(v, e, k);
        }
}

/* --- outlines ----------------------------------------------------------------------------------- */

typedef struct { double key, h; Vec p; } Mark;   /* a place on one of two generators of a face */

static int by_key(const void *a, const void *b) {
    const Mark *x = a, *y = b;
    if (x->key != y->key) return x->key < y->key ? -1 : 1;
    return x->h < y->h ? -1 : x->h > y->h;
}

static void add_outline(View *v, int32_t f, Line l) {
    l.edge = -1;
    l.face[0] = l.face[1] = f;
    l.contour = v->s->sign[f] > 0 || v->s->is_sheet[f];
    l.open = l.contour;                /* a hollow face runs on behind its own outline */
    l.smooth = l.in_outline = 0;
    if (l.kind != SAMPLED) l.own = -1;
    ADD(v, line, lines, line_room, l);
}

/* Generators of a cylinder or cone, between the places where the borders turn away. */
static void generators(View *v, int32_t f, Mark *mark, int32_t n) {
    const Solid *s = v->s;
    Vec z = v->zz[f], w = v->w[f];
    Vec way = cross(z, w);
    int side[2] = {0, 0};
    for (int32_t i = 0; i < n; i++) {
        Vec d = minus(mark[i].p, v->c[f]);
        mark[i].key = dot(d, way) > 0;
        mark[i].h = dot(d, z);
        side[(int)mark[i].key] = 1;
    }
    for (int32_t k = 0; k < 2 && s->has_apex[f]; k++)
        if (side[k]) {
            mark[n].key = k;
            mark[n].p = v->c0[f];
            mark[n++].h = dot(minus(v->c0[f], v->c[f]), z);
        }
    qsort(mark, (size_t)n, sizeof *mark, by_key);
    /* onto the true generator: places on sampled edges are not exact */
    double slope = s->face_kind[f] == CONE ? tan(s->sizes[2 * f + 1]) : 0;
    double ax = dot(v->x[f], w), by = dot(v->y[f], w), zw = dot(z, w);
    double off = acos(within((slope != 0 ? -zw / slope : 0) / hypot(ax, by), -1, 1));
    int hand = dot(cross(v->x[f], v->y[f]), z) > 0;
    for (int32_t i = 0; i < n; i++) {
        double u = atan2(by, ax) + ((mark[i].key > 0) == hand ? off : -off);
        double radius = s->sizes[2 * f] + mark[i].h * slope;
        Vec p = plus(v->c[f], radius * cos(u), v->x[f]);
        mark[i].p = plus(plus(p, radius * sin(u), v->y[f]), mark[i].h, z);
    }
    for (int32_t i = 0; i + 1 < n; i++) {
        if (mark[i].key != mark[i + 1].key || mark[i + 1].h - mark[i].h < 1e-6) continue;
        Vec step = minus(mark[i + 1].p, mark[i].p);
        if (!inside(v, f, plus(mark[i].p, MIDDLE, step))) continue;
        Line l;
        memset(&l, 0, sizeof l);
        l.kind = STRAIGHT;
        l.o = mark[i].p;
        l.a = step;
        l.to = 1;
        add_outline(v, f, l);
    }
}

/* The great circle of a ball, between the places where the borders turn away. */
static void great_circle(View *v, int32_t f, Mark *mark, int32_t n) {
    for (int32_t i = 0; i < n; i++) {
        mark[i].key = atan2(mark[i].p.y - v->c[f].y, mark[i].p.x - v->c[f].x);
        mark[i].h = 0;
    }
    qsort(mark, (size_t)n, sizeof *mark, by_key);
    double radius = v->s->sizes[2 * f];
    for (int32_t i = 0; i < (n ? n : 1); i++) {
        double from = n ? mark[i].key : 0;
        double to = i + 1 < n ? mark[i + 1].key : (n ? mark[0].key : 0) + TURN;
        double middle = from + MIDDLE * (to - from);
        if (to - from < 1e-6) continue;
        Vec p = plus(v->c[f], radius, vec(cos(middle), sin(middle), 0));
        if (!inside(v, f, p)) continue;
        Line l;
        memset(&l, 0, sizeof l);
        l.kind = ARC;
        l.o = v->c[f];
        l.a = vec(radius, 0, 0);
        l.b = vec(0, radius, 0);
        l.from = from;
        l.to = to;
        add_outline(v, f, l);
    }
}

static Vec on_ring(const View *v, int32_t f, double u, double w) {
    double big = v->s->sizes[2 * f], small = v->s->sizes[2 * f + 1];
    double out = big + small * cos(w);
    Vec p = plus(v->c[f], out * cos(u), v->x[f]);
    return plus(plus(p, out * sin(u), v->y[f]), small * sin(w), v->zz[f]);
}

/* How a ring bends along the direction at a place of its outline, above 0 where it does not hide
   itself there: its normal curvature, 1/r across the tube and cos w / (R + r cos w) along it. */
static double ring_bend(const View *v, int32_t f, double u, double w) {
    double big = v->s->sizes[2 * f], small = v->s->sizes[2 * f + 1];
    double along = cos(u) * v->y[f].z - sin(u) * v->x[f].z;
    double outward = cos(u) * v->x[f].z + sin(u) * v->y[f].z;
    double across = cos(w) * v->zz[f].z - sin(w) * outward;
    double bend = across * across / small + along * along * cos(w) / (big + small * cos(w));
    return bend * v->s->sign[f];
}

/* What a place of a ring's outline is: 0 off the face, 1 hidden by the ring right there, 2 not. */
static int outline_state(const View *v, int32_t f, double u, double w) {
    if (!inside_at(v, f, u, w)) return 0;
    return ring_bend(v, f, u, w) > 0 ? 2 : 1;
}

typedef struct { View *v; int32_t f, begin; double u, w; int state; } Tracing;

static void end_trace(Tracing *t) {
    View *v = t->v;
    int32_t count = v->owns - t->begin;
    if (count > 1) {
        Line l;
        memset(&l, 0, sizeof l);
        l.kind = SAMPLED;
        l.own = t->begin;
        l.o.x = count - 1;
        l.to = count - 1;
        add_outline(v, t->f, l);
        Line *made = &v->line[v->lines - 1];
        made->open = made->contour = t->state == 2 || v->s->is_sheet[t->f];
    } else {
        v->owns = t->begin;
    }
    t->begin = v->owns;
}

/* Go on to a place of a ring's outline; where it becomes another sort, to there and on. */
static void trace(Tracing *t, double u, double w, int is_first) {
    View *v = t->v;
    int state = outline_state(v, t->f, u, w);
    if (!is_first && state != t->state) {
        double low = 0, high = 1;
        for (int k = 0; k < 40; k++) {
            double m = (low + high) / 2;
            int there = outline_state(v, t->f, t->u + m * (u - t->u), t->w + m * (w - t->w));
            if (there == t->state) low = m; else high = m;
        }
        Vec q = on_ring(v, t->f, t->u + low * (u - t->u), t->w + low * (w - t->w));
        if (t->state) { ADD(v, own, owns, own_room, q); end_trace(t); }
        if (state) ADD(v, own, owns, own_room, q);
    }
    if (state) ADD(v, own, owns, own_room, on_ring(v, t->f, u, w));
    t->state = state;
    t->u = u;
    t->w = w;
}

/* Outlines of a ring: along u each has its place on the tube, tan w = -(d.rho(u)) / (d.z).

   Where w changes quickly the places are found by w instead: seen square to its axis a ring shows
   half circles of its tube. */
static void ring_outlines(View *v, int32_t f) {
    const double *bound = v->s->uv + 4 * f;
    double ax = v->x[f].z, ay = v->y[f].z, dz = v->zz[f].z, flat = hypot(ax, ay), ud = atan2(ay, ax);
    double small = v->s->sizes[2 * f + 1], wide = v->s->sizes[2 * f] + small;
    double step = least(sqrt(8 * SAG / wide), TURN / 96), step_w = least(sqrt(8 * SAG / small), 0.1);
    int32_t steps = (int32_t)ceil((bound[1] - bound[0]) / step) + 2;
    if (fabs(dz) < 1e-9) dz = 1e-9;   /* the half circles run by the outer side, or by the inner */
    for (int branch = 0; branch < 2; branch++) {
        Tracing t = {v, f, v->owns, 0, 0, 0};
        double last = 0, last_u = 0;
        for (int32_t i = 0; i <= steps; i++) {
            double u = bound[0] + (bound[1] - bound[0]) * i / steps;
            double w = atan2(-flat * cos(u - ud), dz) + branch * HALF;
            if (i) {
                while (w - last > HALF) w -= TURN;
                while (w - last < -HALF) w += TURN;
                int32_t more = (int32_t)(fabs(w - last) / step_w);
                for (int32_t k = 1; k <= more; k++) {
                    double wk = last + (w - last) * k / (more + 1);
                    double share = within(-tan(wk - branch * HALF) * dz / most(flat, 1e-12), -1, 1);
                    double at = acos(share), one = wrapped(ud + at, last_u, u, 0);
                    double other = wrapped(ud - at, last_u, u, 0);
                    double uk = !isnan(one) ? one : !isnan(other) ? other
                                : last_u + (u - last_u) * k / (more + 1);
                    trace(&t, uk, wk, 0);
                }
            }
            trace(&t, u, w, i == 0);
            last = w;
            last_u = u;
        }
        if (t.state) end_trace(&t); else v->owns = t.begin;
    }
}

/* --- nets of free faces ------------------------------------------------------------------------- */

static void turn_nets(View *v) {
    const Solid *s = v->s;
    int32_t count = s->net_start[s->faces], leans = s->lean_start[2 * s->edges];
    v->place = room(v, sizeof *v->place * (size_t)count);
    v->front_of = room(v, sizeof *v->front_of * (size_t)count);
    v->lean = room(v, sizeof *v->lean * (size_t)leans);
    if (v->failed) return;
    for (int32_t k = 0; k < count; k++) {
        v->place[k] = turned(v->r, s->net + 6 * k);
        v->front_of[k] = turned(v->r, s->net + 6 * k + 3).z;
        /* a seam in an outline: both of its sides are taken alike */
        if (fabs(v->front_of[k]) < 1e-9) v->front_of[k] = 1e-12;
    }
    for (int32_t k = 0; k < leans; k++) v->lean[k] = turned(v->r, s->lean + 3 * k).z;
}

/* A place of a net's outline: on the side of a quad, where n.d is nothing. */
typedef struct { Vec p; double u, w, bend; int32_t next[2]; int met; } Knot;

/* A net's places and the sides between them: side 2 n runs along u from place n, 2 n + 1 along v. */
typedef struct { View *v; int32_t f, first, nu, nv; int32_t *knot_at; Knot *knot; int32_t knots; } Net;

static Vec normal_of(const Net *n, int32_t at) {
    return turned(n->v->r, n->v->s->net + 6 * (n->first + at) + 3);
}

/* A point of a curve between two places with normals: the third degree of curved point-normal
   triangles (Vlachos and others, 2001), which leaves a surface far less than a chord does. */
static Vec bowed(Vec a, Vec b, Vec na, Vec nb, double t) {
    Vec step = minus(b, a);
    Vec c = plus(plus(a, 1.0 / 3, step), -dot(step, na) / 3, na);
    Vec d = plus(plus(b, -1.0 / 3, step), dot(step, nb) / 3, nb);
    double s = 1 - t;
    Vec p = plus(plus(vec(0, 0, 0), s * s * s, a), 3 * s * s * t, c);
    return plus(plus(p, 3 * s * t * t, d), t * t * t, b);
}

/* The same of the places themselves: a Vec is three doubles. */
static Vec way_along(const Vec *p, int32_t i, int32_t n, int32_t step) {
    return vec(change(&p->x, i, n, 3 * step), change(&p->y, i, n, 3 * step),
               change(&p->z, i, n, 3 * step));
}

/* How the surface bends along the direction: above 0 where it is not hollow, and so hides itself. */
static double bend_at(const Net *n, int32_t i, int32_t j) {
    const View *v = n->v;
    int32_t row = n->first + i * n->nv, column = n->first + j;
    double fu = change(v->front_of + column, i, n->nu, n->nv);
    double fw = change(v->front_of + row, j, n->nv, 1);
    Vec pu = way_along(v->place + column, i, n->nu, n->nv);
    Vec pw = way_along(v->place + row, j, n->nv, 1);
    /* the way toward the viewer on the surface, in steps of the net: least squares */
    double uu = dot(pu, pu), uw = dot(pu, pw), ww = dot(pw, pw), turn = uu * ww - uw * uw;
    if (fabs(turn) < 1e-18) return 1;
    double du = (ww * pu.z - uw * pw.z) / turn, dw = (uu * pw.z - uw * pu.z) / turn;
    return du * fu + dw * fw;
}

/* Where n.d is nothing between two places of which it is not the same sign, halved down: a straight
   line between two values is far off where the surface leans away. */
static double share_at(const Net *n, int32_t at, int along_v) {
    const double *f = n->v->front_of + n->first;
    int32_t step = along_v ? 1 : n->nv, count = along_v ? n->nv : n->nu;
    int32_t i = along_v ? at % n->nv : at / n->nv, start = at - i * step;
    double low = 0, high = 1;
    for (int turn = 0; turn < 44; turn++) {
        double t = (low + high) / 2;
        if ((between(f + start, i, count, step, t) > 0) == (f[at] > 0)) low = t; else high = t;
    }
    return (low + high) / 2;
}

/* A point between two places on a border of the net, in the border. */
static Vec on_border(const Net *n, int32_t at, int along_v, double t) {
    int32_t step = along_v ? 1 : n->nv, count = along_v ? n->nv : n->nu;
    int32_t i = along_v ? at % n->nv : at / n->nv;
    const Vec *p = n->v->place + n->first + at - i * step;   /* three doubles each */
    return vec(between(&p->x, i, count, 3 * step, t), between(&p->y, i, count, 3 * step, t),
               between(&p->z, i, count, 3 * step, t));
}

static int is_border(const Net *n, int32_t i, int32_t j, int along_v) {
    return along_v ? i == 0 || i == n->nu - 1 : j == 0 || j == n->nv - 1;
}

static int32_t knot_on(Net *n, int32_t side) {
    View *v = n->v;
    if (n->knot_at[side]) return n->knot_at[side] - 1;
    int32_t at = side / 2, i = at / n->nv, j = at % n->nv, other = side % 2 ? at + 1 : at + n->nv;
    double t = share_at(n, at, side % 2);
    const double *bound = v->s->uv + 4 * n->f;
    double hu = (bound[1] - bound[0]) / (n->nu - 1), hw = (bound[3] - bound[2]) / (n->nv - 1);
    Knot k;
    k.p = is_border(n, i, j, side % 2) ? on_border(n, at, side % 2, t)
        : bowed(v->place[n->first + at], v->place[n->first + other], normal_of(n, at),
                normal_of(n, other), t);
    k.u = bound[0] + hu * (i + (side % 2 ? 0 : t));
    k.w = bound[2] + hw * (j + (side % 2 ? t : 0));
    k.bend = (1 - t) * bend_at(n, i, j) + t * bend_at(n, other / n->nv, other % n->nv);
    k.next[0] = k.next[1] = -1;
    k.met = 0;
    n->knot[n->knots] = k;
    n->knot_at[side] = ++n->knots;
    return n->knots - 1;
}

static void tie(Net *n, int32_t one, int32_t other) {
    int32_t a = knot_on(n, one), b = knot_on(n, other);
    for (int k = 0; k < 2; k++) {
        Knot *knot = &n->knot[k ? b : a];
        knot->next[knot->next[0] >= 0] = k ? a : b;
    }
}

/* Tie the places on the sides of a quad: two, or where four are met those that lie together. */
static void tie_quad(Net *n, int32_t i, int32_t j) {
    int32_t a = i * n->nv + j, b = a + n->nv, c = a + 1, d = b + 1;
    const double *f = n->v->front_of + n->first;
    int32_t side[4] = {2 * a, 2 * b + 1, 2 * c, 2 * a + 1};   /* ab, bd, cd, ac */
    int met[4] = {(f[a] > 0) != (f[b] > 0), (f[b] > 0) != (f[d] > 0), (f[c] > 0) != (f[d] > 0),
                  (f[a] > 0) != (f[c] > 0)};
    int count = met[0] + met[1] + met[2] + met[3];
    if (count == 2) {
        int32_t two[2], k = 0;
        for (int q = 0; q < 4; q++) if (met[q]) two[k++] = side[q];
        tie(n, two[0], two[1]);
    } else if (count == 4) {
        int with_a = (f[a] + f[b] + f[c] + f[d] > 0) == (f[a] > 0);
        tie(n, side[0], side[with_a ? 1 : 3]);
        tie(n, side[2], side[with_a ? 3 : 1]);
    }
}

static int knot_state(const Net *n, const Knot *k) {
    if (!inside_at(n->v, n->f, k->u, k->w)) return 0;
    return k->bend > 0 ? 2 : 1;
}

static Knot knot_between(const Knot *a, const Knot *b, double t) {
    Knot k = *a;
    k.p = plus(a->p, t, minus(b->p, a->p));
    k.u = a->u + t * (b->u - a->u);
    k.w = a->w + t * (b->w - a->w);
    k.bend = a->bend + t * (b->bend - a->bend);
    return k;
}

/* An end of an outline: where an edge of the face turns away, which is known better, if it does. */
static Vec at_turn(View *v, int32_t f, Vec p) {
    double best = TURN_NEARER;
    Vec found = p;
    for (int32_t k = 0; k < v->turns; k++) {
        if (v->turn[k].face != f || v->s->flags[v->turn[k].edge] & SEAM) continue;
        Line l = edge_line(v, v->turn[k].edge);
        Vec there = place(v, &l, v->turn[k].t, NULL), off = minus(there, p);
        double gap = sqrt(dot(off, off));
        if (gap < best) { best = gap; found = there; }
    }
    return found;
}

static void end_run(Net *n, int32_t begin, int state) {
    View *v = n->v;
    int32_t count = v->owns - begin;
    if (count < 2) { v->owns = begin; return; }
    v->own[begin] = at_turn(v, n->f, v->own[begin]);
    v->own[v->owns - 1] = at_turn(v, n->f, v->own[v->owns - 1]);
    Line l;
    memset(&l, 0, sizeof l);
    l.kind = SAMPLED;
    l.own = begin;
    l.o.x = l.to = count - 1;
    add_outline(v, n->f, l);
    Line *made = &v->line[v->lines - 1];
    made->open = made->contour = state == 2 || v->s->is_sheet[n->f];
}

/* Go along tied places from one on, in runs of one state. */
static void run_along(Net *n, int32_t start) {
    View *v = n->v;
    int32_t at = start, begin = v->owns, from = -1;
    int state = knot_state(n, &n->knot[at]);
    if (state) ADD(v, own, owns, own_room, n->knot[at].p);
    n->knot[at].met = 1;
    for (;;) {
        Knot *k = &n->knot[at];
        int32_t to = k->next[0] >= 0 && k->next[0] != from ? k->next[0] : k->next[1];
        if (to < 0 || to == from || (n->knot[to].met && to != start)) break;
        int next = knot_state(n, &n->knot[to]);
        if (next != state) {
            double low = 0, high = 1;
            for (int step = 0; step < 30; step++) {
                double m = (low + high) / 2;
                Knot between = knot_between(k, &n->knot[to], m);
                if (knot_state(n, &between) == state) low = m; else high = m;
            }
            Knot edge = knot_between(k, &n->knot[to], low);
            if (state) ADD(v, own, owns, own_room, edge.p);
            if (state) end_run(n, begin, state);
            begin = v->owns;
            if (next) ADD(v, own, owns, own_room, edge.p);
            state = next;
        }
        if (state) ADD(v, own, owns, own_room, n->knot[to].p);
        if (n->knot[to].met) break;   /* once around */
        n->knot[to].met = 1;
        from = at;
        at = to;
    }
    if (state) end_run(n, begin, state);
}

static void net_outlines(View *v, int32_t f) {
    const Solid *s = v->s;
    Net n = {v, f, s->net_start[f], s->net_size[2 * f], s->net_size[2 * f + 1], NULL, NULL, 0};
    size_t places = (size_t)(n.nu * n.nv);
    n.knot_at = calloc(2 * places + 2, sizeof *n.knot_at);
    n.knot = malloc((2 * places + 2) * sizeof *n.knot);
    if (!n.knot_at || !n.knot) { v->failed = 1; free(n.knot_at); free(n.knot); return; }
    for (int32_t i = 0; i + 1 < n.nu; i++)
        for (int32_t j = 0; j + 1 < n.nv; j++) tie_quad(&n, i, j);
    for (int32_t k = 0; k < n.knots; k++)   /* from the ends first, then what is closed */
        if (!n.knot[k].met && n.knot[k].next[1] < 0) run_along(&n, k);
    for (int32_t k = 0; k < n.knots; k++)
        if (!n.knot[k].met) run_along(&n, k);
    free(n.knot_at);
    free(n.knot);
}

static void find_outlines(View *v) {
    const Solid *s = v->s;
    int32_t *head = room(v, sizeof *head * (size_t)s->faces);
    int32_t *next = room(v, sizeof *next * (size_t)(v->turns + 1));
    Mark *mark = room(v, sizeof *mark * (size_t)(v->turns + 4));
    if (v->failed) return;
    for (int32_t f = 0; f < s->faces; f++) head[f] = -1;
    for (int32_t k = 0; k < v->turns; k++) {
        if (s->flags[v->turn[k].edge] & SEAM) continue;
        next[k] = head[v->turn[k].face];
        head[v->turn[k].face] = k;
    }
    for (int32_t f = 0; f < s->faces; f++) {
        int32_t n = 0;
        if (s->face_kind[f] == TORUS) { ring_outlines(v, f); continue; }
        if (s->face_kind[f] == FREE) { net_outlines(v, f); continue; }
        if (s->face_kind[f] == PLANE || (head[f] < 0 && s->face_kind[f] != BALL)) continue;
        for (int32_t k = head[f]; k >= 0; k = next[k]) {
            Line l = edge_line(v, v->turn[k].edge);
            mark[n++].p = place(v, &l, v->turn[k].t, NULL);
        }
        if (s->face_kind[f] == BALL) great_circle(v, f, mark, n);
        else generators(v, f, mark, n);
    }
}

/* --- parts of edges along which no face turns away ---------------------------------------------- */

static int by_turn(const void *a, const void *b) {
    const Turn *x = a, *y = b;
    if (x->edge != y->edge) return x->edge < y->edge ? -1 : 1;
    return x->t < y->t ? -1 : x->t > y->t;
}

enum { IN_OUTLINE = 2 };

/* Whether a face beside an edge is seen from in front: 1, from behind: -1, edge-on: 0; or that the
   edge lies in the outline of a ring or a free face. */
static int side_seen(const View *v, int32_t e, int k, double t, Vec p, Vec way) {
    int32_t f = v->s->beside[2 * e + k];
    if (f < 0) return -1;
    if (v->s->face_kind[f] == FREE) {
        double lean = lean_along(v, e, k, t);
        return lean > LEVEL ? 1 : lean < -LEVEL ? -1 : IN_OUTLINE;
    }
    double lean = facing(v, f, p);
    if (v->s->face_kind[f] != PLANE && fabs(lean) < 10 * EDGE_ON) {
        /* the edge lies in the face's outline: look a little into the face */
        if (v->s->face_kind[f] == TORUS) return IN_OUTLINE;
        double turn = (v->s->reversed[2 * e + k] ? -1 : 1) / most(length(way), 1e-12);
        lean = turn * dot(cross(normal_at(v, f, p), way), v->w[f]);
    }
    return lean > EDGE_ON ? 1 : lean < -EDGE_ON ? -1 : 0;
}

static int is_flat(const View *v, int32_t e, int k, Vec p) {
    int32_t f = v->s->beside[2 * e + k];
    return f >= 0 && v->s->face_kind[f] != FREE && fabs(facing(v, f, p)) <= EDGE_ON;
}

static void add_part(View *v, int32_t e, double from, double to) {
    Line l = edge_line(v, e);
    l.from = from;
    l.to = to;
    uint8_t flags = v->s->flags[e];
    Vec way, p = place(v, &l, (from + to) / 2, &way);
    double t = (from + to) / 2;
    int one = side_seen(v, e, 0, t, p, way), other = side_seen(v, e, 1, t, p, way);
    int lies_in_one = one == IN_OUTLINE || other == IN_OUTLINE;
    if (lies_in_one) flags |= UNSURE;
    if ((one == 1) != (other == 1)) l.mark |= LONE;
    if (l.kind == STRAIGHT && (is_flat(v, e, 0, p) || is_flat(v, e, 1, p))) l.mark |= FLAT;
    one = one > 0;
    other = other > 0;
    int convex = (flags & CONVEX) != 0;
    l.contour = one != other && convex;
    l.open = convex || l.smooth ? one || other : one && other;
    if (flags & UNSURE) l.contour = l.open = 1;
    l.in_outline = l.smooth && l.contour && (lies_in_one || one != other);
    if (l.kind == STRAIGHT && hypot(l.a.x, l.a.y) * (to - from) < 1e-6) return; /* end-on */
    ADD(v, line, lines, line_room, l);
}

/* How the ring beside an edge bends at a place of the edge, if the edge lies in its outline there. */
static int bend_beside(const View *v, int32_t e, double t, int *is_above) {
    Line l = edge_line(v, e);
    Vec p = place(v, &l, t, NULL);
    double u, w;
    for (int k = 0; k < 2; k++) {
        int32_t f = v->s->beside[2 * e + k];
        if (f < 0 || v->s->face_kind[f] != TORUS || fabs(facing(v, f, p)) > 10 * EDGE_ON) continue;
        parameters(v, f, p, &u, &w);
        *is_above = ring_bend(v, f, u, w) > 0;
        return 1;
    }
    return 0;
}

/* An edge in the outline of a ring is in sight on one side of where the ring turns hollow, and so
   it is cut there. */
static void add_parts(View *v, int32_t e, double from, double to) {
    enum { PROBES = 48 };
    int last = 0, now = 0;
    if (!bend_beside(v, e, (from + to) / 2, &now)) { add_part(v, e, from, to); return; }
    double begin = from, h = (to - from) / PROBES;
    for (int i = 0; i <= PROBES; i++) {
        if (!bend_beside(v, e, from + i * h, &now)) continue;
        if (i && now != last) {
            double low = from + (i - 1) * h, high = low + h;
            for (int step = 0; step < 40; step++) {
                double middle = (low + high) / 2;
                int there = last;
                bend_beside(v, e, middle, &there);
                if (there == last) low = middle; else high = middle;
            }
            add_part(v, e, begin, low);
            begin = low;
        }
        last = now;
    }
    add_part(v, e, begin, to);
}

static void part_edges(View *v) {
    qsort(v->turn, (size_t)v->turns, sizeof *v->turn, by_turn);
    int32_t k = 0;
    for (int32_t e = 0; e < v->s->edges; e++) {
        double from = v->s->span[2 * e], end = v->s->span[2 * e + 1];
        for (; k < v->turns && v->turn[k].edge == e; k++) {
            double t = v->turn[k].t;
            if (v->s->flags[e] & SEAM || t < from + ROOT || t > end - ROOT) continue;
            add_parts(v, e, from, t);
            from = t;
        }
        if (!(v->s->flags[e] & SEAM) && end - from > ROOT) add_parts(v, e, from, end);
    }
}

/* --- parts on the picture ----------------------------------------------------------------------- */

enum { CHORD, BOW, FOLD };   /* straight; an arc; an arc seen edge-on, which runs back and forth */

static void box_of_chord(Part *p) {
    p->box[0] = least(p->p.x, p->q.x);
    p->box[1] = least(p->p.y, p->q.y);
    p->box[2] = most(p->p.x, p->q.x);
    p->box[3] = most(p->p.y, p->q.y);
}

static void add_chord(View *v, int32_t line, int32_t type, double from, double to) {
    Part p;
    memset(&p, 0, sizeof p);
    p.line = line;
    p.type = type;
    p.from = from;
    p.to = to;
    p.p = place(v, &v->line[line], from, NULL);
    p.q = place(v, &v->line[line], to, NULL);
    box_of_chord(&p);
    ADD(v, part, parts, part_room, p);
}

static void add_bow(View *v, int32_t line) {
    const Line *l = &v->line[line];
    Part p;
    memset(&p, 0, sizeof p);
    p.line = line;
    p.type = BOW;
    p.from = l->from;
    p.to = l->to;
    p.p = place(v, l, l->from, NULL);
    p.q = place(v, l, l->to, NULL);
    box_of_chord(&p);
    double o[2] = {l->o.x, l->o.y}, a[2] = {l->a.x, l->a.y}, b[2] = {l->b.x, l->b.y};
    for (int k = 0; k < 2; k++) {
        double m = hypot(a[k], b[k]), phase = atan2(b[k], a[k]);
        if (!isnan(wrapped(phase, l->from, l->to, 1e-7))) p.box[2 + k] = o[k] + m;
        if (!isnan(wrapped(phase + HALF, l->from, l->to, 1e-7))) p.box[k] = o[k] - m;
    }
    ADD(v, part, parts, part_room, p);
}

/* An arc seen edge-on: cut where it turns back, so that each part runs one way. */
static void add_folds(View *v, int32_t line) {
    Line l = v->line[line];
    double across = hypot(l.a.x, l.b.x), up = hypot(l.a.y, l.b.y);
    double phase = across > up ? atan2(l.b.x, l.a.x) : atan2(l.b.y, l.a.y);
    double from = l.from, to = phase + HALF * ceil((from - phase) / HALF + 1e-9);
    while (from < l.to - 1e-12) {
        double end = least(to, l.to);
        add_chord(v, line, FOLD, from, end);
        if (v->parts) {
            Part *p = &v->part[v->parts - 1];
            p->phase = phase;
            p->side = sin((from + end) / 2 - phase) > 0 ? 1 : -1;
        }
        from = end;
        to += HALF;
    }
}

static int is_edge_on(const Line *l) {
    double turn = fabs(l->a.x * l->b.y - l->a.y * l->b.x);
    return turn < 1e-7 * (dot(l->a, l->a) + dot(l->b, l->b));
}

static void find_parts(View *v) {
    for (int32_t i = 0; i < v->lines && !v->failed; i++) {
        Line l = v->line[i];
        if (!l.open && !l.contour) continue;
        if (l.kind == STRAIGHT) add_chord(v, i, CHORD, l.from, l.to);
        else if (l.kind == ARC && is_edge_on(&l)) add_folds(v, i);
        else if (l.kind == ARC) add_bow(v, i);
        else
            for (double t = l.from; t < l.to - 1e-9;) {
                double end = least(floor(t + 1e-9) + 1, l.to);
                add_chord(v, i, CHORD, t, end);
                t = end;
            }
    }
}

/* The parameter at a share of a straight part, and the depth there. */
static double share_of(const View *v, const Part *p, double share, double *depth) {
    if (p->type == CHORD) {
        *depth = p->p.z + share * (p->q.z - p->p.z);
        return p->from + share * (p->to - p->from);
    }
    const Line *l = &v->line[p->line];
    double across = hypot(l->a.x, l->b.x), up = hypot(l->a.y, l->b.y);
    double x = across > up ? (p->p.x + share * (p->q.x - p->p.x) - l->o.x) / across
                           : (p->p.y + share * (p->q.y - p->p.y) - l->o.y) / up;
    double t = p->phase + p->side * acos(within(x, -1, 1));
    t = within(t + TURN * round(((p->from + p->to) / 2 - t) / TURN), p->from, p->to);
    *depth = place(v, l, t, NULL).z;
    return t;
}

/* --- a grid of boxes ------------------------------------------------------------------------------ */

static int32_t cell(double at, double origin, double scale, int32_t n) {
    return (int32_t)within(floor((at - origin) * scale), 0, n - 1);
}

static void set_grid(Grid *g, const double *box, int32_t n) {
    g->n = n;
    g->left = box[0] - 1e-3;
    g->low = box[1] - 1e-3;
    g->across = n / (box[2] + 1e-3 - g->left);
    g->up = n / (box[3] + 1e-3 - g->low);
}

typedef struct { int32_t a, b, low, high; } Cells;   /* columns a..b; rows of one of them */

/* The columns that a part meets. */
static Cells columns(const Grid *g, const double *box, double slack) {
    Cells c = {cell(box[0] - slack, g->left, g->across, g->n),
               cell(box[2] + slack, g->left, g->across, g->n), 0, 0};
    c.low = cell(box[1] - slack, g->low, g->up, g->n);
    c.high = cell(box[3] + slack, g->low, g->up, g->n);
    return c;
}

/* The rows that a part meets in a column: of a straight one only those along it. */
static void rows(const Grid *g, const Part *p, const Cells *c, int32_t column, int32_t *low,
                 int32_t *high) {
    *low = c->low;
    *high = c->high;
    if (p->type == BOW || c->a == c->b || c->low == c->high) return;
    double slope = (p->q.y - p->p.y) / (p->q.x - p->p.x), slack = 3 * TOUCH;
    double from = most(g->left + column / g->across - slack, p->box[0] - slack);
    double to = least(g->left + (column + 1) / g->across + slack, p->box[2] + slack);
    double y0 = p->p.y + (from - p->p.x) * slope, y1 = p->p.y + (to - p->p.x) * slope;
    if (!(fabs(slope) < 1e12)) return;
    int32_t a = cell(least(y0, y1) - slack, g->low, g->up, g->n);
    int32_t b = cell(most(y0, y1) + slack, g->low, g->up, g->n);
    *low = a > c->low ? a : c->low;
    *high = b < c->high ? b : c->high;
}

/* --- crossings ------------------------------------------------------------------------------------ */

static void add_cut(View *v, int32_t line, double t) {
    Cut c = {line, t};
    ADD(v, cut, cuts, cut_room, c);
}

static void chord_by_chord(View *v, const Part *p, const Part *by) {
    double ux = p->q.x - p->p.x, uy = p->q.y - p->p.y, wx = by->q.x - by->p.x, wy = by->q.y - by->p.y;
    double dx = by->p.x - p->p.x, dy = by->p.y - p->p.y, turn = ux * wy - uy * wx;
    double lu = hypot(ux, uy), lw = hypot(wx, wy), z, near;
    if (fabs(turn) <= 1e-9 * lu * lw) return;
    double a = (dx * wy - dy * wx) / turn, b = (dx * uy - dy * ux) / turn;
    if (a < -TOUCH / lu || a > 1 + TOUCH / lu || b < -TOUCH / lw || b > 1 + TOUCH / lw) return;
    double t = share_of(v, p, a, &z);
    share_of(v, by, b, &near);
    if (near > z + ABOVE) add_cut(v, p->line, t);
}

/* Cuts of a straight part by an arc, or the other way round. */
static void chord_and_bow(View *v, const Part *chord, const Part *bow, int bow_is_cut) {
    const Line *l = &v->line[bow->line];
    double ux = chord->q.x - chord->p.x, uy = chord->q.y - chord->p.y, square = ux * ux + uy * uy;
    double a = ux * l->a.y - uy * l->a.x, b = ux * l->b.y - uy * l->b.x, m = hypot(a, b);
    double c = ux * (l->o.y - chord->p.y) - uy * (l->o.x - chord->p.x);
    if (m == 0 || square == 0 || fabs(c) >= m * (1 + 1e-9)) return;
    double phase = atan2(b, a), off = acos(within(-c / m, -1, 1)), slack = TOUCH / sqrt(square);
    for (int k = -1; k <= 1; k += 2) {
        double t = wrapped(phase + k * off, bow->from, bow->to, 1e-6), z;
        if (isnan(t)) continue;
        Vec p = place(v, l, t, NULL);
        double share = ((p.x - chord->p.x) * ux + (p.y - chord->p.y) * uy) / square;
        if (share < -slack || share > 1 + slack) continue;
        double s = share_of(v, chord, share, &z);
        if (bow_is_cut && z > p.z + ABOVE) add_cut(v, bow->line, t);
        if (!bow_is_cut && p.z > z + ABOVE) add_cut(v, chord->line, s);
    }
}

typedef struct { double k0, k1, k2, k3, k4; } Wave;   /* k0 + k1 cos + k2 sin + k3 cos 2t + k4 sin 2t */

static double wave(const Wave *w, double t, double *slope, double *bend) {
    double c = cos(t), s = sin(t), c2 = c * c - s * s, s2 = 2 * c * s;
    if (slope) *slope = -w->k1 * s + w->k2 * c - 2 * w->k3 * s2 + 2 * w->k4 * c2;
    if (bend) *bend = -w->k1 * c - w->k2 * s - 4 * w->k3 * c2 - 4 * w->k4 * s2;
    return w->k0 + w->k1 * c + w->k2 * s + w->k3 * c2 + w->k4 * s2;
}

/* A root between two places of unlike sign: Newton's way, kept between them. */
static double root_between(const Wave *w, double low, double high, int low_is_up) {
    double x = (low + high) / 2;
    for (int k = 0; k < 40; k++) {
        double slope, value = wave(w, x, &slope, NULL);
        if ((value > 0) == low_is_up) low = x; else high = x;
        double next = slope != 0 ? x - value / slope : low;
        if (!(next >= low && next <= high)) next = (low + high) / 2;
        if (fabs(next - x) < 1e-13) return next;
        x = next;
    }
    return x;
}

enum { STEPS = 24, MOST_ROOTS = 2 * STEPS + 4 };

/* The roots beside a turning point between two places of like sign, if it just reaches across. */
static int roots_by_turn(const Wave *w, double low, double x, double high, int up, double *root) {
    for (int i = 0; i < 6; i++) {
        double slope, bend;
        wave(w, x, &slope, &bend);
        if (bend == 0) break;
        x = within(x - slope / bend, low, high);
    }
    if ((wave(w, x, NULL, NULL) > 0) == up) return 0;
    root[0] = root_between(w, low, x, up);
    root[1] = root_between(w, x, high, !up);
    return 2;
}

/* The roots of a wave between two places; at most MOST_ROOTS. */
static int wave_roots(const Wave *w, double from, double to, double *root) {
    double h = (to - from) / STEPS, value[STEPS + 1], slope;
    int n = 0;
    for (int k = 0; k <= STEPS; k++) value[k] = wave(w, from + k * h, NULL, NULL);
    for (int k = 0; k < STEPS; k++)
        if ((value[k] > 0) != (value[k + 1] > 0))
            root[n++] = root_between(w, from + k * h - 1e-7, from + (k + 1) * h + 1e-7, value[k] > 0);
    for (int k = 1; k < STEPS; k++) {
        int up = value[k] > 0;
        if ((value[k - 1] > 0) != up || (value[k + 1] > 0) != up) continue;
        if (fabs(value[k]) > fabs(value[k - 1]) || fabs(value[k]) > fabs(value[k + 1])) continue;
        n += roots_by_turn(w, from + (k - 1) * h, from + k * h, from + (k + 1) * h, up, root + n);
    }
    /* arcs that meet at an end may cross once more close to it */
    for (int k = 0; k <= STEPS; k += STEPS) {
        int beside = k ? STEPS - 1 : 1, up = value[beside] > 0;
        wave(w, from + k * h, &slope, NULL);
        if ((value[k] > 0) != up || ((k ? -slope : slope) > 0) == up) continue;
        double low = k ? to - h : from, high = k ? to : from + h;
        n += roots_by_turn(w, low, (low + high) / 2, high, up, root + n);
    }
    return n;
}

/* Cuts of an arc by an arc: where the second one is brought to the unit circle. */
static void bow_by_bow(View *v, const Part *p, const Part *by) {
    const Line *l = &v->line[p->line], *c = &v->line[by->line];
    double turn = c->a.x * c->b.y - c->a.y * c->b.x;
    double ox = l->o.x - c->o.x, oy = l->o.y - c->o.y;
    double cx = (ox * c->b.y - oy * c->b.x) / turn, cy = (c->a.x * oy - c->a.y * ox) / turn;
    double ax = (l->a.x * c->b.y - l->a.y * c->b.x) / turn;
    double ay = (c->a.x * l->a.y - c->a.y * l->a.x) / turn;
    double bx = (l->b.x * c->b.y - l->b.y * c->b.x) / turn;
    double by_ = (c->a.x * l->b.y - c->a.y * l->b.x) / turn;
    double aa = ax * ax + ay * ay, bb = bx * bx + by_ * by_;
    Wave w = {cx * cx + cy * cy - 1 + (aa + bb) / 2, 2 * (cx * ax + cy * ay),
              2 * (cx * bx + cy * by_), (aa - bb) / 2, ax * bx + ay * by_};
    double reach = hypot(w.k1, w.k2) + hypot(w.k3, w.k4), root[MOST_ROOTS];
    if (fabs(w.k0) > reach + 1e-9 || fabs(w.k0) + reach < 1e-9) return;
    int n = wave_roots(&w, p->from, p->to, root);
    for (int k = 0; k < n; k++) {
        Vec at = place(v, l, root[k], NULL);
        double dx = at.x - c->o.x, dy = at.y - c->o.y;
        double t = atan2((c->a.x * dy - c->a.y * dx) / turn, (dx * c->b.y - dy * c->b.x) / turn);
        t = wrapped(t, by->from, by->to, 1e-5);
        if (!isnan(t) && place(v, c, t, NULL).z > at.z + ABOVE) add_cut(v, p->line, root[k]);
    }
}

static void cross_parts(View *v, const Part *p, const Part *by) {
    if (p->box[0] > by->box[2] + TOUCH || by->box[0] > p->box[2] + TOUCH ||
        p->box[1] > by->box[3] + TOUCH || by->box[1] > p->box[3] + TOUCH) return;
    if (p->type != BOW && by->type != BOW) chord_by_chord(v, p, by);
    else if (p->type != BOW) chord_and_bow(v, p, by, 0);
    else if (by->type != BOW) chord_and_bow(v, by, p, 1);
    else bow_by_bow(v, p, by);
}

static void box_of_all(const double *boxes, size_t stride, int32_t count, double *all) {
    all[0] = all[1] = INFINITY;
    all[2] = all[3] = -INFINITY;
    for (int32_t i = 0; i < count; i++) {
        const double *box = (const double *)((const char *)boxes + stride * (size_t)i);
        for (int k = 0; k < 2; k++) {
            all[k] = least(all[k], box[k]);
            all[2 + k] = most(all[2 + k], box[2 + k]);
        }
    }
}

static void fill_part_grid(View *v, Grid *g) {
    for (int round = 0; round < 2 && !v->failed; round++) {
        for (int32_t i = 0; i < v->parts; i++) {
            const Part *p = &v->part[i];
            if (!v->line[p->line].contour) continue;
            Cells c = columns(g, p->box, 3 * TOUCH);
            for (int32_t a = c.a; a <= c.b; a++) {
                int32_t low, high;
                rows(g, p, &c, a, &low, &high);
                for (int32_t b = low; b <= high; b++) {
                    int32_t *at = &g->start[a * g->n + b];
                    if (round) g->item[--*at] = i; else ++*at;
                }
            }
        }
        if (round) break;
        int32_t sum = 0;   /* starts are counted down while the items are put in */
        for (int32_t k = 0; k <= g->n * g->n; k++) { sum += g->start[k]; g->start[k] = sum; }
        g->item = room(v, sizeof *g->item * (size_t)sum);
    }
}

static void find_cuts(View *v) {
    double all[4];
    Grid g;
    if (!v->parts) return;
    box_of_all(v->part[0].box, sizeof *v->part, v->parts, all);
    set_grid(&g, all, (int32_t)within(sqrt((double)v->parts), 1, 512));
    g.start = room(v, sizeof *g.start * (size_t)(g.n * g.n + 1));
    int32_t *met = room(v, sizeof *met * (size_t)v->parts);
    if (v->failed) return;
    fill_part_grid(v, &g);
    for (int32_t i = 0; i < v->parts && !v->failed; i++) {
        const Part *p = &v->part[i];
        if (!v->line[p->line].open) continue;
        Cells c = columns(&g, p->box, 3 * TOUCH);
        for (int32_t a = c.a; a <= c.b; a++) {
            int32_t low, high;
            rows(&g, p, &c, a, &low, &high);
            for (int32_t k = g.start[a * g.n + low]; k < g.start[a * g.n + high + 1]; k++) {
                int32_t j = g.item[k];
                if (met[j] == i + 1 || v->part[j].line == p->line) continue;
                met[j] = i + 1;
                cross_parts(v, p, &v->part[j]);
            }
        }
    }
}

/* --- where lines run into other bodies ------------------------------------------------------------ */

/* The equation of a round face, by place along a line: |d|^2 - k (d.z)^2 = square, d from c0. */
typedef struct { Vec d; double k, h, a, b, square; } Shape;

static Shape shape_on(const View *v, int32_t f, const Line *l) {
    const Solid *s = v->s;
    double cone = cos(s->sizes[2 * f + 1]);
    Shape q = {minus(l->o, v->c0[f]), 0, 0, dot(l->a, v->zz[f]), dot(l->b, v->zz[f]), 0};
    q.h = dot(q.d, v->zz[f]);
    q.k = s->face_kind[f] == CYLINDER ? 1 : s->face_kind[f] == CONE ? 1 / (cone * cone) : 0;
    q.square = s->face_kind[f] == CONE ? 0 : s->sizes[2 * f] * s->sizes[2 * f];
    return q;
}

static void pierced_straight(View *v, int32_t line, int32_t f) {
    const Line *l = &v->line[line];
    if (v->s->face_kind[f] == PLANE) {
        double lean = dot(l->a, v->zz[f]);
        if (lean != 0) add_cut(v, line, dot(minus(v->c[f], l->o), v->zz[f]) / lean);
        return;
    }
    Shape q = shape_on(v, f, l);
    double a = dot(l->a, l->a) - q.k * q.a * q.a, b = dot(q.d, l->a) - q.k * q.h * q.a;
    double c = dot(q.d, q.d) - q.k * q.h * q.h - q.square, under = b * b - a * c;
    if (under < 0) return;
    double sum = -b - (b < 0 ? -1 : 1) * sqrt(under);
    if (a != 0) add_cut(v, line, sum / a);
    if (sum != 0) add_cut(v, line, c / sum);
}

static void pierced_arc(View *v, int32_t line, int32_t f) {
    const Line *l = &v->line[line];
    if (v->s->face_kind[f] == PLANE) {
        double c = dot(minus(l->o, v->c[f]), v->zz[f]);
        double a = dot(l->a, v->zz[f]), b = dot(l->b, v->zz[f]), m = hypot(a, b);
        if (fabs(c) > m || m == 0) return;
        for (int side = -1; side <= 1; side += 2) {
            double t = wrapped(atan2(b, a) + side * acos(within(-c / m, -1, 1)), l->from, l->to, 0);
            if (!isnan(t)) add_cut(v, line, t);
        }
        return;
    }
    Shape q = shape_on(v, f, l);
    double aa = dot(l->a, l->a) - q.k * q.a * q.a, bb = dot(l->b, l->b) - q.k * q.b * q.b;
    double root[MOST_ROOTS];
    Wave w = {dot(q.d, q.d) - q.k * q.h * q.h - q.square + (aa + bb) / 2,
              2 * (dot(q.d, l->a) - q.k * q.h * q.a), 2 * (dot(q.d, l->b) - q.k * q.h * q.b),
              (aa - bb) / 2, dot(l->a, l->b) - q.k * q.a * q.b};
    int n = wave_roots(&w, l->from, l->to, root);
    for (int k = 0; k < n; k++) add_cut(v, line, root[k]);
}

/* On which side of a face's surface a point is: 0 on it. */
static double side_of(const View *v, int32_t f, Vec p) {
    const Solid *s = v->s;
    Vec d = minus(p, v->c[f]);
    if (s->face_kind[f] == PLANE) return dot(d, v->zz[f]);
    if (s->face_kind[f] == TORUS) {
        double h = dot(d, v->zz[f]), out = sqrt(most(dot(d, d) - h * h, 0)) - s->sizes[2 * f];
        return hypot(out, h) - s->sizes[2 * f + 1];
    }
    Line l;
    memset(&l, 0, sizeof l);
    l.o = p;
    Shape q = shape_on(v, f, &l);
    return dot(q.d, q.d) - q.k * q.h * q.h - q.square;
}

static void pierced_by_steps(View *v, int32_t line, int32_t f) {
    const Line *l = &v->line[line];
    int32_t steps = l->kind == SAMPLED ? (int32_t)ceil(l->to - l->from) : 128;
    double last = 0, h = (l->to - l->from) / steps;
    for (int32_t i = 0; i <= steps; i++) {
        double now = side_of(v, f, place(v, l, l->from + i * h, NULL));
        if (i && (now > 0) != (last > 0)) {
            double low = l->from + (i - 1) * h, high = low + h;
            for (int k = 0; k < 40; k++) {
                double m = (low + high) / 2;
                if ((side_of(v, f, place(v, l, m, NULL)) > 0) == (last > 0)) low = m; else high = m;
            }
            add_cut(v, line, (low + high) / 2);
        }
        last = now;
    }
}

static void box_of_line(const View *v, const Line *l, double *low, double *high) {
    Vec a = l->o, b = l->o;
    if (l->kind == STRAIGHT) {
        a = place(v, l, l->from, NULL);
        b = place(v, l, l->to, NULL);
    } else if (l->kind == ARC) {
        Vec h = vec(hypot(l->a.x, l->b.x), hypot(l->a.y, l->b.y), hypot(l->a.z, l->b.z));
        a = minus(l->o, h);
        b = plus(l->o, 1, h);
    }
    double p[3] = {a.x, a.y, a.z}, q[3] = {b.x, b.y, b.z};
    for (int k = 0; k < 3; k++) { low[k] = least(p[k], q[k]); high[k] = most(p[k], q[k]); }
    if (l->kind != SAMPLED) return;
    const Vec *at = points_of(v, l);
    for (int k = 0; k < 3; k++) { low[k] = INFINITY; high[k] = -INFINITY; }
    for (int32_t i = 0; i <= (int32_t)l->o.x; i++) {
        double r[3] = {at[i].x, at[i].y, at[i].z};
        for (int k = 0; k < 3; k++) { low[k] = least(low[k], r[k]); high[k] = most(high[k], r[k]); }
    }
}

static int apart(const double *low, const double *high, const double *other_low,
                 const double *other_high) {
    for (int k = 0; k < 3; k++) if (low[k] > other_high[k] || other_low[k] > high[k]) return 1;
    return 0;
}

/* Cut a line where it runs through the surface of a face of another body. */
static void pierce(View *v, int32_t line, int32_t f) {
    int32_t before = v->cuts;
    int kind = v->line[line].kind;
    if (kind == SAMPLED || v->s->face_kind[f] == TORUS) pierced_by_steps(v, line, f);
    else if (kind == STRAIGHT) pierced_straight(v, line, f);
    else pierced_arc(v, line, f);
    int32_t kept = before;   /* of the cuts those in the face's own box */
    for (int32_t k = before; k < v->cuts; k++) {
        Line *l = &v->line[line];
        double t = v->cut[k].t;
        if (!(t > l->from && t < l->to)) continue;
        Vec p = place(v, l, t, NULL);
        double at[3] = {p.x, p.y, p.z}, a[3], b[3];
        for (int q = 0; q < 3; q++) { a[q] = at[q] - NEARER; b[q] = at[q] + NEARER; }
        if (!apart(a, b, v->flo + 3 * f, v->fhi + 3 * f)) v->cut[kept++] = v->cut[k];
    }
    v->cuts = kept;
}

/* Bodies that overlap hide parts of each other's lines that run into them. */
static void find_piercings(View *v) {
    const Solid *s = v->s;
    if (s->bodies < 2) return;
    double *low = room(v, 3 * sizeof *low * (size_t)s->bodies);
    double *high = room(v, 3 * sizeof *high * (size_t)s->bodies), a[3], b[3];
    int32_t *first = room(v, sizeof *first * (size_t)(s->bodies + 1));
    int32_t *faces = room(v, sizeof *faces * (size_t)s->faces);
    if (v->failed) return;
    for (int32_t k = 0; k < 3 * s->bodies; k++) { low[k] = INFINITY; high[k] = -INFINITY; }
    for (int32_t f = 0; f < s->faces; f++) {
        first[s->body[f]]++;
        for (int k = 0; k < 3; k++) {
            int32_t at = 3 * s->body[f] + k;
            low[at] = least(low[at], v->flo[3 * f + k]);
            high[at] = most(high[at], v->fhi[3 * f + k]);
        }
    }
    for (int32_t k = 0, sum = 0; k <= s->bodies; k++) { sum += first[k]; first[k] = sum; }
    for (int32_t f = s->faces - 1; f >= 0; f--) faces[--first[s->body[f]]] = f;
    for (int32_t i = 0; i < v->lines && !v->failed; i++) {
        const Line *l = &v->line[i];
        if (!l->open || l->face[0] < 0) continue;
        int32_t own = s->body[l->face[0]];
        box_of_line(v, l, a, b);
        for (int32_t other = 0; other < s->bodies; other++) {
            const double *mine = s->body_box + 6 * own, *theirs = s->body_box + 6 * other;
            if (other == own || apart(mine, mine + 3, theirs, theirs + 3) ||
                apart(a, b, low + 3 * other, high + 3 * other)) continue;
            for (int32_t k = first[other]; k < first[other + 1]; k++) {
                int32_t f = faces[k];
                if (s->face_kind[f] != FREE && !apart(a, b, v->flo + 3 * f, v->fhi + 3 * f))
                    pierce(v, i, f);
            }
        }
    }
}

/* --- pieces between cuts -------------------------------------------------------------------------- */

static int by_cut(const void *a, const void *b) {
    const Cut *x = a, *y = b;
    if (x->line != y->line) return x->line < y->line ? -1 : 1;
    return x->t < y->t ? -1 : x->t > y->t;
}

static double size_of_parameter(const Line *l) {
    if (l->kind == STRAIGHT) return length(l->a);
    return l->kind == ARC ? most(length(l->a), length(l->b)) : 1;
}

static void add_piece(View *v, int32_t line, double from, double to) {
    Piece p = {line, from, to, 0};
    ADD(v, piece, pieces, piece_room, p);
}

static void find_pieces(View *v) {
    qsort(v->cut, (size_t)v->cuts, sizeof *v->cut, by_cut);
    int32_t k = 0;
    for (int32_t i = 0; i < v->lines; i++) {
        const Line *l = &v->line[i];
        double from = l->from, least_step = SHORTEST / most(size_of_parameter(l), 1e-12);
        for (; k < v->cuts && v->cut[k].line == i; k++) {
            double t = within(v->cut[k].t, l->from, l->to);
            if (t - from <= least_step || l->to - t <= least_step) continue;
            add_piece(v, i, from, t);
            from = t;
        }
        add_piece(v, i, from, l->to);
    }
}

/* --- faces that hide ------------------------------------------------------------------------------ */

static void stretch(View *v, int32_t f, Vec p) {
    double at[3] = {p.x, p.y, p.z};
    for (int k = 0; k < 3; k++) {
        v->flo[3 * f + k] = least(v->flo[3 * f + k], at[k]);
        v->fhi[3 * f + k] = most(v->fhi[3 * f + k], at[k]);
    }
}

static void stretch_by_edge(View *v, int32_t f, int32_t e) {
    Line l = edge_line(v, e);
    if (l.kind == STRAIGHT) {
        stretch(v, f, place(v, &l, l.from, NULL));
        stretch(v, f, place(v, &l, l.to, NULL));
    } else if (l.kind == ARC) {
        Vec h = vec(hypot(l.a.x, l.b.x), hypot(l.a.y, l.b.y), hypot(l.a.z, l.b.z));
        stretch(v, f, minus(l.o, h));
        stretch(v, f, plus(l.o, 1, h));
    } else {
        const Vec *at = points_of(v, &l);
        for (int32_t i = 0; i <= (int32_t)l.o.x; i++) stretch(v, f, at[i]);
    }
}

static void box_faces(View *v) {
    const Solid *s = v->s;
    for (int32_t k = 0; k < 3 * s->faces; k++) { v->flo[k] = INFINITY; v->fhi[k] = -INFINITY; }
    for (int32_t k = 0; k < s->uses; k++) stretch_by_edge(v, s->use[2 * k], s->use[2 * k + 1]);
    for (int32_t f = 0; f < s->faces; f++) {
        double size = s->sizes[2 * f];
        if (s->face_kind[f] == TORUS) size += s->sizes[2 * f + 1];
        if (s->has_apex[f]) stretch(v, f, v->c0[f]);
        if (s->face_kind[f] == BALL || s->face_kind[f] == TORUS) {
            stretch(v, f, plus(v->c[f], -size, vec(1, 1, 1)));
            stretch(v, f, plus(v->c[f], size, vec(1, 1, 1)));
        }
    }
    for (int32_t i = 0; i < v->lines; i++) {   /* a trimmed barrel may reach beyond its edges */
        const Line *l = &v->line[i];
        if (l->edge >= 0 || l->kind != STRAIGHT) continue;
        stretch(v, l->face[0], l->o);
        stretch(v, l->face[0], plus(l->o, 1, l->a));
    }
}

static int hides(const View *v, int32_t f) {
    if (v->s->face_kind[f] == FREE) return 0;   /* its quads do */
    if (v->s->face_kind[f] != PLANE) return 1;
    return v->s->is_sheet[f] ? fabs(v->nd[f]) > EDGE_ON : v->nd[f] > EDGE_ON;
}

static void find_fronts(View *v) {
    const Solid *s = v->s;
    v->front = room(v, sizeof *v->front * (size_t)s->faces);
    double *boxes = room(v, sizeof *boxes * 4 * (size_t)s->faces), all[4];
    if (v->failed) return;
    for (int32_t f = 0; f < s->faces; f++) {
        if (!hides(v, f)) continue;
        double *box = boxes + 4 * v->fronts;
        box[0] = v->flo[3 * f]; box[1] = v->flo[3 * f + 1];
        box[2] = v->fhi[3 * f]; box[3] = v->fhi[3 * f + 1];
        v->front[v->fronts++] = f;
    }
    if (!v->fronts) return;
    Grid *g = &v->grid;
    box_of_all(boxes, 4 * sizeof *boxes, v->fronts, all);
    set_grid(g, all, (int32_t)within(sqrt(2.0 * v->fronts), 1, 512));
    g->start = room(v, sizeof *g->start * (size_t)(g->n * g->n + 1));
    for (int round = 0; round < 2 && !v->failed; round++) {
        for (int32_t i = 0; i < v->fronts; i++) {
            Cells c = columns(g, boxes + 4 * i, TOUCH);
            for (int32_t a = c.a; a <= c.b; a++)
                for (int32_t b = c.low; b <= c.high; b++) {
                    int32_t *at = &g->start[a * g->n + b];
                    if (round) g->item[--*at] = v->front[i]; else ++*at;
                }
        }
        if (round) break;
        int32_t sum = 0;
        for (int32_t k = 0; k <= g->n * g->n; k++) { sum += g->start[k]; g->start[k] = sum; }
        g->item = room(v, sizeof *g->item * (size_t)sum);
    }
}

/* --- quads of nets that hide ------------------------------------------------------------------------ */

static void corners(const View *v, const Quad *q, int32_t *at) {
    int32_t nv = v->s->net_size[2 * q->face + 1];
    at[0] = v->s->net_start[q->face] + q->i * nv + q->j;
    at[1] = at[0] + nv;
    at[2] = at[0] + 1;
    at[3] = at[1] + 1;
}

static void box_of_quad(const View *v, const Quad *q, double *box) {
    int32_t at[4];
    corners(v, q, at);
    box[0] = box[1] = INFINITY;
    box[2] = box[3] = -INFINITY;
    for (int k = 0; k < 4; k++) {
        Vec p = v->place[at[k]];
        box[0] = least(box[0], p.x); box[1] = least(box[1], p.y);
        box[2] = most(box[2], p.x); box[3] = most(box[3], p.y);
    }
}

static void find_quads(View *v) {
    const Solid *s = v->s;
    double all[4] = {INFINITY, INFINITY, -INFINITY, -INFINITY}, box[4];
    for (int32_t f = 0; f < s->faces; f++) {
        if (s->face_kind[f] != FREE) continue;
        for (int32_t i = 0; i + 1 < s->net_size[2 * f]; i++)
            for (int32_t j = 0; j + 1 < s->net_size[2 * f + 1]; j++) {
                Quad q = {f, i, j};
                int32_t at[4], fronts = 0;
                corners(v, &q, at);
                for (int k = 0; k < 4; k++) fronts += v->front_of[at[k]] > 0;
                if (!fronts && !s->is_sheet[f]) continue;
                box_of_quad(v, &q, box);
                for (int k = 0; k < 2; k++) {
                    all[k] = least(all[k], box[k]);
                    all[2 + k] = most(all[2 + k], box[2 + k]);
                }
                ADD(v, quad, quads, quad_room, q);
            }
    }
    if (!v->quads) return;
    Grid *g = &v->mesh;
    set_grid(g, all, (int32_t)within(sqrt((double)v->quads), 1, 1024));
    g->start = room(v, sizeof *g->start * (size_t)(g->n * g->n + 1));
    for (int round = 0; round < 2 && !v->failed; round++) {
        for (int32_t i = 0; i < v->quads; i++) {
            box_of_quad(v, &v->quad[i], box);
            Cells c = columns(g, box, TOUCH);
            for (int32_t a = c.a; a <= c.b; a++)
                for (int32_t b = c.low; b <= c.high; b++) {
                    int32_t *at = &g->start[a * g->n + b];
                    if (round) g->item[--*at] = i; else ++*at;
                }
        }
        if (round) break;
        int32_t sum = 0;
        for (int32_t k = 0; k <= g->n * g->n; k++) { sum += g->start[k]; g->start[k] = sum; }
        g->item = room(v, sizeof *g->item * (size_t)sum);
    }
}

/* Whether a triangle of a quad is met by a sight line, and how deep; `first` is its corner at the
   quad's own. */
static int triangle_meets(const View *v, const Quad *q, const int32_t *at, int upper, Vec p,
                          double *depth) {
    int32_t ia = upper ? at[3] : at[0], ib = upper ? at[2] : at[1], ic = upper ? at[1] : at[2];
    Vec a = v->place[ia], b = v->place[ib], c = v->place[ic];
    double turn = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
    if (fabs(turn) < 1e-18) return 0;
    double x = p.x - a.x, y = p.y - a.y;
    double s = (x * (c.y - a.y) - y * (c.x - a.x)) / turn;
    double t = ((b.x - a.x) * y - (b.y - a.y) * x) / turn;
    if (s < 0 || t < 0 || s + t > 1) return 0;
    *depth = a.z + s * (b.z - a.z) + t * (c.z - a.z);
    const double *f = v->front_of, *bound = v->s->uv + 4 * q->face;
    if (!v->s->is_sheet[q->face] && f[ia] + s * (f[ib] - f[ia]) + t * (f[ic] - f[ia]) <= 0) return 0;
    const int32_t *size = v->s->net_size + 2 * q->face;
    double u = q->i + (upper ? 1 - s : s), w = q->j + (upper ? 1 - t : t);
    return inside_at(v, q->face, bound[0] + (bound[1] - bound[0]) * u / (size[0] - 1),
                     bound[2] + (bound[3] - bound[2]) * w / (size[1] - 1));
}

static int triangle_hides(const View *v, const Quad *q, const int32_t *at, int upper, Vec p,
                          double nearer) {
    double depth;
    return triangle_meets(v, q, at, upper, p, &depth) && depth >= p.z + nearer;
}

static int net_hides(const View *v, const Line *l, Vec p, double under) {
    const Grid *g = &v->mesh;
    if (!v->quads) return 0;
    int32_t cell_at = cell(p.x, g->left, g->across, g->n) * g->n + cell(p.y, g->low, g->up, g->n);
    for (int32_t k = g->start[cell_at]; k < g->start[cell_at + 1]; k++) {
        const Quad *q = &v->quad[g->item[k]];
        int own = q->face == l->face[0] || q->face == l->face[1], at[4];
        corners(v, q, at);
        double size = length(minus(v->place[at[3]], v->place[at[0]]));
        double nearer = own ? 20 * NEARER + 2 * sqrt(NET_BEND * size * most(under, UNDER_CHORD))
                            : NET_NEARER;
        if (triangle_hides(v, q, at, 0, p, nearer) || triangle_hides(v, q, at, 1, p, nearer)) return 1;
    }
    return 0;
}

/* --- borders of plane faces, in slabs --------------------------------------------------------------- */

static void add_border(View *v, int32_t f, int32_t e, Vec p, Vec q, double side, double phase,
                       double radius) {
    Border b = {f, e, p.x, p.y, q.x, q.y, side, phase, radius};
    ADD(v, border, borders, border_room, b);
}

static void borders_of(View *v, int32_t f, int32_t e) {
    Line l = edge_line(v, e);
    if (l.kind == STRAIGHT) {
        add_border(v, f, -1, place(v, &l, l.from, NULL), place(v, &l, l.to, NULL), 0, 0, 0);
    } else if (l.kind == SAMPLED) {
        const Vec *at = points_of(v, &l);
        for (int32_t i = 0; i < (int32_t)l.o.x; i++) add_border(v, f, -1, at[i], at[i + 1], 0, 0, 0);
    } else {
        double phase = atan2(l.b.y, l.a.y), radius = hypot(l.a.y, l.b.y), from = l.from;
        double to = phase + HALF * ceil((from - phase) / HALF);
        for (; from < l.to; to += HALF) {
            double end = least(to, l.to);
            if (end > from) {
                double side = sin((from + end) / 2 - phase) > 0 ? 1 : -1;
                add_border(v, f, e, place(v, &l, from, NULL), place(v, &l, end, NULL), side, phase,
                           radius);
                from = end;
            }
        }
    }
}

static int32_t slabs_of(const View *v, int32_t f) { return v->slab0[f + 1] - v->slab0[f]; }

static int32_t slab_at(const View *v, int32_t f, double y) {
    double low = v->flo[3 * f + 1], high = most(v->fhi[3 * f + 1] - low, 1e-9);
    return v->slab0[f] + cell(y, low, slabs_of(v, f) / high, slabs_of(v, f));
}

static void find_borders(View *v) {
    const Solid *s = v->s;
    int32_t *count = room(v, sizeof *count * (size_t)(s->faces + 1));
    v->slab0 = room(v, sizeof *v->slab0 * (size_t)(s->faces + 1));
    if (v->failed) return;
    for (int32_t k = 0; k < s->uses; k++) {
        int32_t f = s->use[2 * k];
        if (s->face_kind[f] == PLANE && hides(v, f)) borders_of(v, f, s->use[2 * k + 1]);
    }
    for (int32_t i = 0; i < v->borders; i++) count[v->border[i].face]++;
    for (int32_t f = 0; f < s->faces; f++)
        v->slab0[f + 1] = v->slab0[f] + (count[f] ? (count[f] > 1 ? count[f] / 2 : 1) : 0);
    int32_t slabs = v->slab0[s->faces], sum = 0;
    v->slab_start = room(v, sizeof *v->slab_start * (size_t)(slabs + 1));
    for (int round = 0; round < 2 && !v->failed; round++) {
        for (int32_t i = 0; i < v->borders; i++) {
            const Border *b = &v->border[i];
            int32_t low = slab_at(v, b->face, least(b->y0, b->y1) - 1e-9);
            int32_t high = slab_at(v, b->face, most(b->y0, b->y1) + 1e-9);
            for (int32_t k = low; k <= high; k++) {
                if (round) v->slab_item[--v->slab_start[k]] = i; else v->slab_start[k]++;
            }
        }
        if (round) break;
        for (int32_t k = 0; k <= slabs; k++) { sum += v->slab_start[k]; v->slab_start[k] = sum; }
        v->slab_item = room(v, sizeof *v->slab_item * (size_t)sum);
    }
}

/* Whether a place of the picture lies in the image of a plane face. */
static int covers(const View *v, int32_t f, double x, double y) {
    if (!slabs_of(v, f)) return 0;
    int32_t slab = slab_at(v, f, y);
    int odd = 0;
    for (int32_t k = v->slab_start[slab]; k < v->slab_start[slab + 1]; k++) {
        const Border *b = &v->border[v->slab_item[k]];
        if ((b->y0 > y) == (b->y1 > y)) continue;
        double at;
        if (b->edge < 0) {
            at = b->x0 + (y - b->y0) / (b->y1 - b->y0) * (b->x1 - b->x0);
        } else {
            Vec o = v->eo[b->edge], p = v->ea[b->edge], q = v->eb[b->edge];
            double reach = fabs(p.x) + fabs(q.x);   /* most are told by the whole ellipse */
            if (o.x + reach < x) continue;
            if (o.x - reach > x) { odd = !odd; continue; }
            double t = b->phase + b->side * acos(within((y - o.y) / b->radius, -1, 1));
            at = o.x + cos(t) * p.x + sin(t) * q.x;
        }
        if (at > x) odd = !odd;
    }
    return odd;
}

/* --- sight lines -------------------------------------------------------------------------------------- */

static int plane_hides(const View *v, int32_t f, Vec p) {
    Vec c = v->c[f], z = v->zz[f];
    double depth = c.z - ((p.x - c.x) * z.x + (p.y - c.y) * z.y) / z.z;
    return depth > p.z + NEARER && covers(v, f, p.x, p.y);
}

/* Whether a point of a round face's surface hides what lies behind. */
static int surface_hides(const View *v, int32_t f, Vec at, double lean) {
    if (!v->s->is_sheet[f] && lean <= 0) return 0;
    return inside(v, f, at);
}

/* Where a sight line meets the whole surface of a cylinder, a cone or a ball: its depths. */
static int quadric_roots(const View *v, int32_t f, Vec p, double *root) {
    const Solid *s = v->s;
    Vec d = vec(p.x - v->c0[f].x, p.y - v->c0[f].y, 0), z = v->zz[f];
    int kind = s->face_kind[f], count = 0;
    double angle = s->sizes[2 * f + 1], along = d.x * z.x + d.y * z.y;
    double k = kind == CYLINDER ? 1 : kind == CONE ? 1 / (cos(angle) * cos(angle)) : 0;
    double square = kind == CONE ? 0 : s->sizes[2 * f] * s->sizes[2 * f];
    double a = 1 - k * z.z * z.z, b = -k * along * z.z, c = dot(d, d) - k * along * along - square;
    double under = b * b - a * c;
    if (under < 0) return 0;
    double sum = -b - (b < 0 ? -1 : 1) * sqrt(under); /* a may be nothing: along a cone's wall */
    for (int k_ = 0; k_ < 2; k_++) {
        double r = k_ ? c / sum : sum / a;
        if (!(fabs(r) < 1e12)) continue;
        if (kind == CONE && (along + r * z.z) * tan(angle) < -1e-9) continue;
        root[count++] = v->c0[f].z + r;
    }
    return count;
}

static int quadric_hides(const View *v, int32_t f, Vec p, double nearer) {
    double root[2];
    int roots = quadric_roots(v, f, p, root);
    for (int k = 0; k < roots; k++) {
        if (root[k] <= p.z + nearer) continue;
        Vec from = vec(p.x - v->c0[f].x, p.y - v->c0[f].y, root[k] - v->c0[f].z);
        if (surface_hides(v, f, vec(p.x, p.y, root[k]), dot(from, v->w[f]))) return 1;
    }
    return 0;
}

/* The ring's equation along a sight line: (r.r + R^2 - q^2)^2 - 4 R^2 (r.r - h^2), over r^4-sizes. */
static void ring_quartic(const View *v, int32_t f, Vec p, double *k) {
    double big = v->s->sizes[2 * f], small = v->s->sizes[2 * f + 1];
    Vec d = vec(p.x - v->c[f].x, p.y - v->c[f].y, 0), z = v->zz[f];
    double along = d.x * z.x + d.y * z.y, flat = dot(d, d), e = flat + big * big - small * small;
    double four = 4 * big * big;
    k[4] = 1;
    k[3] = 0;
    k[2] = 2 * e - four * (1 - z.z * z.z);
    k[1] = 2 * four * along * z.z;
    k[0] = e * e - four * (flat - along * along);
}

static double quartic(const double *k, double x) {
    return (((k[4] * x + k[3]) * x + k[2]) * x + k[1]) * x + k[0];
}

/* The places where a quartic without cubic term turns: roots of 4 x^3 + 2 k2 x + k1. */
static int turning_places(const double *k, double *at) {
    double p = k[2] / 2, q = k[1] / 4, third = p / 3, half = q / 2;
    double under = half * half + third * third * third;
    if (under > 0) {
        double root = sqrt(under);
        at[0] = cbrt(-half + root) + cbrt(-half - root);
        return 1;
    }
    double size = 2 * sqrt(most(-third, 0)), third_power = sqrt(most(-third * third * third, 1e-300));
    double angle = acos(within(-half / third_power, -1, 1)) / 3;
    for (int i = 0; i < 3; i++) at[i] = size * cos(angle - i * TURN / 3);
    if (at[0] > at[1]) { double t = at[0]; at[0] = at[1]; at[1] = t; }
    if (at[1] > at[2]) { double t = at[1]; at[1] = at[2]; at[2] = t; }
    if (at[0] > at[1]) { double t = at[0]; at[0] = at[1]; at[1] = t; }
    return 3;
}

/* Where a sight line meets a whole ring: its depths, the nearest to the viewer first. */
static int ring_roots(const View *v, int32_t f, Vec p, double *root) {
    double k[5], turn[3], stop[5];
    double reach = v->s->sizes[2 * f] + v->s->sizes[2 * f + 1] + 1;
    ring_quartic(v, f, p, k);
    int turns = turning_places(k, turn), stops = 0, count = 0;
    stop[stops++] = -reach;
    for (int i = 0; i < turns; i++) if (fabs(turn[i]) < reach) stop[stops++] = turn[i];
    stop[stops++] = reach;
    for (int i = stops - 2; i >= 0; i--) {
        double low = stop[i], high = stop[i + 1], under = quartic(k, low);
        if ((under > 0) == (quartic(k, high) > 0)) continue;
        for (int step = 0; step < 60; step++) {
            double middle = (low + high) / 2;
            if ((quartic(k, middle) > 0) == (under > 0)) low = middle; else high = middle;
        }
        root[count++] = v->c[f].z + (low + high) / 2;
    }
    return count;
}

static int ring_hides(const View *v, int32_t f, Vec p, double nearer) {
    double root[4];
    int roots = ring_roots(v, f, p, root);
    for (int k = 0; k < roots && root[k] > p.z + nearer; k++) {
        Vec at = vec(p.x, p.y, root[k]);
        if (surface_hides(v, f, at, facing(v, f, at))) return 1;
    }
    return 0;
}

/* How much nearer a round face must be to hide a line of its own.

   Near its outline the face is steep: a line that lies a hair under it, or a sight line a hair
   aside, meets it sqrt(2 r h) nearer or farther. */
static double own_depth(const View *v, int32_t f, double under) {
    double size = v->s->sizes[2 * f];
    if (v->s->face_kind[f] == CONE)
        for (int k = 2; k < 4; k++)
            size = most(size, v->s->sizes[2 * f] + v->s->uv[4 * f + k] * sin(v->s->sizes[2 * f + 1]));
    if (v->s->face_kind[f] == TORUS) size += v->s->sizes[2 * f + 1];
    return 20 * NEARER + 2 * sqrt(2 * size * under);
}

static int is_hidden(const View *v, const Line *l, Vec p, double under) {
    const Grid *g = &v->grid;
    if (net_hides(v, l, p, under)) return 1;
    if (!v->fronts) return 0;
    int32_t at = cell(p.x, g->left, g->across, g->n) * g->n + cell(p.y, g->low, g->up, g->n);
    for (int32_t k = g->start[at]; k < g->start[at + 1]; k++) {
        int32_t f = g->item[k];
        const double *low = v->flo + 3 * f, *high = v->fhi + 3 * f;
        if (p.x < low[0] || p.x > high[0] || p.y < low[1] || p.y > high[1]) continue;
        if (high[2] < p.z + NEARER) continue;
        int own = f == l->face[0] || f == l->face[1];
        int kind = v->s->face_kind[f];
        double nearer = own && kind != PLANE ? own_depth(v, f, under) : NEARER;
        if (kind == PLANE ? !own && plane_hides(v, f, p)
            : kind == TORUS ? ring_hides(v, f, p, nearer) : quadric_hides(v, f, p, nearer)) return 1;
    }
    return 0;
}

/* A place near the middle of a piece that lies on its line as exactly as may be, and its way there.

   Of a sampled line that is one of its samples, as between them it is off by its chords; says
   whether the place is exact. */
static int middle_of(const View *v, const Piece *piece, Vec *p, Vec *way) {
    const Line *l = &v->line[piece->line];
    double middle = piece->from + MIDDLE * (piece->to - piece->from), near = floor(middle + 0.5);
    *p = place(v, l, middle, way);
    if (l->kind != SAMPLED) return 1;
    if (near < piece->from + 0.01 || near > piece->to - 0.01) return 0;
    const Vec *at = points_of(v, l) + (int32_t)near;
    *p = *at;
    *way = minus(at[1], at[-1]);   /* inside a piece, so that both are there */
    return 1;
}

static void look(View *v) {
    for (int32_t i = 0; i < v->pieces; i++) {
        Piece *piece = &v->piece[i];
        const Line *l = &v->line[piece->line];
        if (!l->open) continue;
        Vec way, p;
        double under = middle_of(v, piece, &p, &way) ? UNDER : UNDER_CHORD;
        double k = BESIDE / most(hypot(way.x, way.y), 1e-12);
        piece->visible = !is_hidden(v, l, vec(p.x - k * way.y, p.y + k * way.x, p.z), under) ||
                         !is_hidden(v, l, vec(p.x + k * way.y, p.y - k * way.x, p.z), under);
    }
}

/* --- what is found ------------------------------------------------------------------------------------ */

/* Whether two pieces that follow one another belong to one line, or to parts of one edge. */
static int run_on(const View *v, const Piece *a, const Piece *b) {
    const Line *one = &v->line[a->line], *other = &v->line[b->line];
    if (a->visible != b->visible || b->from - a->to > ROOT) return 0;
    if (a->line == b->line) return 1;
    return one->edge >= 0 && one->edge == other->edge &&
           one->in_outline == other->in_outline;
}

static void join_pieces(View *v) {
    int32_t kept = 0;
    for (int32_t i = 0; i < v->pieces; i++) {
        Piece *last = kept ? &v->piece[kept - 1] : NULL, now = v->piece[i];
        if (last && run_on(v, last, &now)) last->to = now.to;
        else v->piece[kept++] = now;
    }
    v->pieces = kept;
}

static int is_all(const View *v, const Line *l, double from, double to) {
    return l->edge >= 0 && from <= v->s->span[2 * l->edge] + 1e-9 &&
           to >= v->s->span[2 * l->edge + 1] - 1e-9;
}

static int tell(View *v, Seen *out) {
    size_t n = (size_t)v->pieces + 1, m = (size_t)v->lines + 1;
    out->pieces = v->pieces;
    out->lines = v->lines;
    out->points = v->owns;
    out->line = malloc(n * sizeof *out->line);
    out->from_to = malloc(2 * n * sizeof *out->from_to);
    out->sight = malloc(n);
    out->kind = malloc(m * sizeof *out->kind);
    out->edge = malloc(m * sizeof *out->edge);
    out->face = malloc(m * sizeof *out->face);
    out->curve = malloc(9 * m * sizeof *out->curve);
    out->reach = malloc(2 * m * sizeof *out->reach);
    out->mark = malloc(m);
    out->point_start = malloc(m * sizeof *out->point_start);
    out->point = malloc(3 * ((size_t)v->owns + 1) * sizeof *out->point);
    if (!out->line || !out->from_to || !out->sight || !out->kind || !out->edge || !out->face ||
        !out->curve || !out->reach || !out->mark || !out->point_start || !out->point) return 1;
    for (int32_t i = 0; i < v->pieces; i++) {
        out->line[i] = v->piece[i].line;
        out->from_to[2 * i] = v->piece[i].from;
        out->from_to[2 * i + 1] = v->piece[i].to;
        const Line *l = &v->line[v->piece[i].line];
        out->sight[i] = (v->piece[i].visible ? VISIBLE : 0) |
                        (is_all(v, l, v->piece[i].from, v->piece[i].to) ? WHOLE : 0);
    }
    for (int32_t i = 0; i < v->lines; i++) {
        const Line *l = &v->line[i];
        out->kind[i] = l->kind;
        out->edge[i] = l->edge;
        out->face[i] = l->face[0];
        out->point_start[i] = l->own;
        out->reach[2 * i] = l->from;
        out->reach[2 * i + 1] = l->to;
        out->mark[i] = l->mark | (is_all(v, l, l->from, l->to) ? ALL : 0);
        /* an edge in an outline that is no line itself is told as an outline besides */
        if (l->edge >= 0 && l->in_outline) out->face[i] = -2;
        turned_back(v->r, l->o, out->curve + 9 * i);
        turned_back(v->r, l->a, out->curve + 9 * i + 3);
        turned_back(v->r, l->b, out->curve + 9 * i + 6);
    }
    for (int32_t i = 0; i < v->owns; i++) turned_back(v->r, v->own[i], out->point + 3 * i);
    return 0;
}

void release(Seen *out) {
    free(out->line); free(out->from_to); free(out->sight); free(out->kind); free(out->edge);
    free(out->face); free(out->reach); free(out->mark); free(out->curve); free(out->point_start); free(out->point);
    memset(out, 0, sizeof *out);
}

static void make_rooms(View *v) {
    size_t faces = (size_t)v->s->faces, edges = (size_t)v->s->edges;
    v->c = room(v, faces * sizeof(Vec));
    v->x = room(v, faces * sizeof(Vec));
    v->y = room(v, faces * sizeof(Vec));
    v->zz = room(v, faces * sizeof(Vec));
    v->c0 = room(v, faces * sizeof(Vec));
    v->w = room(v, faces * sizeof(Vec));
    v->nd = room(v, faces * sizeof(double));
    v->flo = room(v, 3 * faces * sizeof(double));
    v->fhi = room(v, 3 * faces * sizeof(double));
    v->eo = room(v, edges * sizeof(Vec));
    v->ea = room(v, edges * sizeof(Vec));
    v->eb = room(v, edges * sizeof(Vec));
    v->sr = room(v, (size_t)v->s->sample_start[edges] * sizeof(Vec));
}

static void begin(View *v, const Solid *s, const double *r) {
    memset(v, 0, sizeof *v);
    v->s = s;
    memcpy(v->r, r, sizeof v->r);
    make_rooms(v);
}

static void end(View *v) {
    for (int32_t k = 0; k < v->keeps; k++) free(v->kept[k]);
    free(v->turn); free(v->line); free(v->own); free(v->part); free(v->cut); free(v->piece);
    free(v->border); free(v->quad);
}

/* --- what edges are, before any direction ------------------------------------------------------------- */

static Vec normal_beside(const View *v, int32_t e, int k, double t, Vec p) {
    const Solid *s = v->s;
    int32_t f = s->beside[2 * e + k], first = s->lean_start[2 * e + k];
    if (s->face_kind[f] != FREE) return normal_at(v, f, p);
    int32_t steps = s->lean_start[2 * e + k + 1] - first - 1;
    double at = (t - s->span[2 * e]) / most(s->span[2 * e + 1] - s->span[2 * e], 1e-12) * steps;
    return turned(v->r, s->lean + 3 * (first + (int32_t)within(floor(at + 0.5), 0, steps)));
}

/* Whether an edge is convex, CONVEX or 0, or one in places only, UNSURE: it is convex where the way
   from it into one face leads below the other one. */
static uint8_t convexity(const View *v, int32_t e) {
    static const double share[5] = {0.03, 0.27, 0.5, 0.71, 0.97};
    Line l = edge_line(v, e);
    int below = 0, above = 0;
    for (int k = 0; k < 5; k++) {
        double t = l.from + share[k] * (l.to - l.from);
        Vec way, p = place(v, &l, t, &way);
        Vec into = cross(normal_beside(v, e, 0, t, p), way);
        double turn = (v->s->reversed[2 * e] ? -1 : 1) / most(length(way), 1e-12);
        double lead = turn * dot(into, normal_beside(v, e, 1, t, p));
        below += lead < 0;
        above += lead > 1e-7;
        if (l.kind == STRAIGHT && v->s->face_kind[l.face[0]] != FREE &&
            v->s->face_kind[l.face[1]] != FREE) break;   /* the same all along */
    }
    return above && below ? UNSURE : above ? 0 : CONVEX;
}

/* Note of every edge that is neither seam nor smooth nor unsure whether it is convex. */
int mark_edges(const Solid *s, uint8_t *flags) {
    static const double as_it_lies[9] = {1, 0, 0, 0, 1, 0, 0, 0, 1};
    View v;
    begin(&v, s, as_it_lies);
    if (!v.failed) {
        turn_faces(&v);
        turn_edges(&v);
        for (int32_t e = 0; e < s->edges; e++) if (!flags[e]) flags[e] = convexity(&v, e);
    }
    end(&v);
    return v.failed;
}

/* Find what is seen. `r` has the picture's axes as rows: x, y, and z toward the viewer.

   Returns 0, or 1 where memory ran out; then nothing is told. */
int see(const Solid *s, const double *r, Seen *out) {
    View v;
    memset(out, 0, sizeof *out);
    begin(&v, s, r);
    void (*steps[])(View *) = {turn_faces, turn_edges, turn_nets, find_turns, find_outlines, part_edges,
                               find_parts, find_cuts, box_faces, find_piercings, find_pieces,
                               find_fronts,
                               find_quads, find_borders, look, join_pieces};
    for (size_t k = 0; k < sizeof steps / sizeof *steps && !v.failed; k++) steps[k](&v);
    int failed = v.failed || tell(&v, out);
    if (failed) release(out);
    end(&v);
    return failed;
}

/* --- how deep a solid reaches along sight lines --------------------------------------------------------- */

typedef struct { double low, high; } Depth;

static void met_at(Depth *d, double z) { d->low = least(d->low, z); d->high = most(d->high, z); }

static void plane_met(const View *v, int32_t f, Vec p, Depth *d) {
    Vec c = v->c[f], z = v->zz[f];
    if (covers(v, f, p.x, p.y)) met_at(d, c.z - ((p.x - c.x) * z.x + (p.y - c.y) * z.y) / z.z);
}

static void round_met(const View *v, int32_t f, Vec p, Depth *d) {
    double root[4];
    int roots = v->s->face_kind[f] == TORUS ? ring_roots(v, f, p, root) : quadric_roots(v, f, p, root);
    for (int k = 0; k < roots; k++)
        if (inside(v, f, vec(p.x, p.y, root[k]))) met_at(d, root[k]);
}

static void net_met(const View *v, Vec p, Depth *d) {
    const Grid *g = &v->mesh;
    if (!v->quads) return;
    int32_t cell_at = cell(p.x, g->left, g->across, g->n) * g->n + cell(p.y, g->low, g->up, g->n);
    for (int32_t k = g->start[cell_at]; k < g->start[cell_at + 1]; k++) {
        const Quad *q = &v->quad[g->item[k]];
        int32_t at[4];
        double depth;
        corners(v, q, at);
        for (int upper = 0; upper < 2; upper++)
            if (triangle_meets(v, q, at, upper, p, &depth)) met_at(d, depth);
    }
}

static void meet(const View *v, Vec p, Depth *d) {
    const Grid *g = &v->grid;
    net_met(v, p, d);
    if (!v->fronts) return;
    int32_t at = cell(p.x, g->left, g->across, g->n) * g->n + cell(p.y, g->low, g->up, g->n);
    for (int32_t k = g->start[at]; k < g->start[at + 1]; k++) {
        int32_t f = g->item[k];
        const double *low = v->flo + 3 * f, *high = v->fhi + 3 * f;
        if (p.x < low[0] || p.x > high[0] || p.y < low[1] || p.y > high[1]) continue;
        if (v->s->face_kind[f] == PLANE) plane_met(v, f, p, d); else round_met(v, f, p, d);
    }
}

/* Tell for each of some points how near and how far along z the sight line through it meets the solid:
   `reach`, points x 2; where it meets nothing, the low end is above the high one.

   Both sides of all faces count: the solid's `is_sheet` must say so. Returns as `see` does. */
int depths(const Solid *s, const double *r, int32_t points, const double *point, double *reach) {
    View v;
    begin(&v, s, r);
    void (*steps[])(View *) = {turn_faces, turn_edges, turn_nets, find_turns, find_outlines, box_faces,
                               find_fronts, find_quads, find_borders};
    for (size_t k = 0; k < sizeof steps / sizeof *steps && !v.failed; k++) steps[k](&v);
    for (int32_t i = 0; i < points && !v.failed; i++) {
        Depth d = {INFINITY, -INFINITY};
        meet(&v, turned(v.r, point + 3 * i), &d);
        reach[2 * i] = d.low;
        reach[2 * i + 1] = d.high;
    }
    end(&v);
    return v.failed;
}
