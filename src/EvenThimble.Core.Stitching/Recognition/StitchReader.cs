using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Recognition;

/// <summary>
/// Finds out what bought stitches are. Stitches in one direction are taken together as legs; legs that go back and forth beside each other, always farther to the same side, are a
/// ladder: throws of satin, rows of fill or a wide underlay. Lines of one way beside each other are a fill in rings. What is left are lines and ties. Nothing is assumed about the program that made them; the method is our own.
/// </summary>
public static class StitchReader
{
    private const double SamePlace = 0.05;
    private const double OffLine = 0.25;
    private const double GoesOn = 0.34;
    private const double Back = -0.15;
    private const double WidestSpacing = 3.8;
    private const double LeastOverlap = 0.4;
    private const double LeastLengthRatio = 0.2;
    private const double AlwaysAlike = 1.5;
    private const double LongestStep = 14;
    private const double StepOfRow = 0.6;
    private const double LongerStep = 0.5;
    private const double LeastSpacing = 0.09;
    private const double WrongWay = 0.12;
    private const double NearestRow = 0.55;
    private const int FewestRungs = 3;
    private const int FewestWideRungs = 5;
    private const double WideSpacing = 1.2;
    private const double SatinSpacing = 0.65;
    private const double TieStitch = 1.05;
    private const double TieSpot = 0.3;
    private const double ReturnSpot = 0.22;
    private const double TinyStep = 0.75;
    private const double StepAfter = 1.8;
    private const double UnderShare = 0.8;
    private const double UnderCell = 0.4;

    // Lines of which so much has another line of the same thread close beside it are rows of a kind that is not understood.
    private const double RowsOfAKind = 0.6;

    // Throws that turn by so much, degrees, and end within this part of their length about one place, are spokes.
    private const double SpokesTurn = 120;
    private const double Hub = 0.15;
    private const double NotUnderstood = 0.3;
    private const double MostOfRungs = 0.8;

    /// <summary>Stitches in one direction, by places in the list of points.</summary>
    private readonly record struct Leg(int From, int To);

    /// <summary>The passages of all records in the order they are sewn; jumps, trims and stops lie between them.</summary>
    public static ImmutableArray<Passage> Read(StitchBlob blob)
    {
        var passages = new List<Passage>();
        for (var i = 0; i < blob.Count;)
        {
            if (blob.Kinds[i] != StitchKind.Stitch)
            {
                i++;
                continue;
            }

            var end = i;
            while (end < blob.Count && blob.Kinds[end] == StitchKind.Stitch) end++;
            new Thread(blob, i, end, passages).Read();
            i = end;
        }

        return MarkUnder(blob, passages);
    }

    /// <summary>One unbroken run of needle points.</summary>
    private sealed class Thread
    {
        private readonly StitchBlob _blob;
        private readonly List<Passage> _passages;
        private readonly List<Point> _points = [];
        private readonly List<int> _records = [];
        private readonly List<(Point At, double Length)> _hubs = [];
        private readonly int _end;

        public Thread(StitchBlob blob, int first, int end, List<Passage> passages)
        {
            (_blob, _passages, _end) = (blob, passages, end);
            for (var i = first; i < end; i++)
            {
                if (_points.Count > 0 && _points[^1].DistanceTo(blob.At(i)) < SamePlace) continue;
                _points.Add(blob.At(i));
                _records.Add(i);
            }
        }

        public void Read()
        {
            var firstPassage = _passages.Count;
            var from = TieAt(0, 1);
            var to = _points.Count - 1 - from > 1 ? TieAt(_points.Count - 1, -1) : _points.Count - 1;
            if (to < from) to = from;
            if (from > 0) Add(PassageKind.Tie, 0, from);
            var at = from;
            foreach (var rings in RingReading.Find(_points, from, to))
            {
                Ladders(at, rings.From);
                AddRings(rings);
                at = rings.To;
            }

            Ladders(at, to);
            AboutHubs(firstPassage);
            if (to < _points.Count - 1) Add(PassageKind.Tie, to, _points.Count - 1);

            // The last passage takes in repeated points at the end.
            if (_points.Count > 1 && _passages[^1].Last < _end - 1) _passages[^1] = _passages[^1] with { Last = _end - 1 };
        }

        /// <summary>
        /// Where small stitches end that begin at a point and hold the thread: to and fro between two spots, out and back to the first spot as in a triangle or a star, or a few tiny steps forward before
        /// longer ones; the same point when there are none.
        /// </summary>
        private int TieAt(int start, int step)
        {
            const int mostStitches = 9, fewestStitches = 3;
            var (small, between, returned, tiny) = (0, 0, 0, 0);
            Point? other = null;
            var twoSpots = true;
            double Length(int k) => _points[start + ((k - 1) * step)].DistanceTo(_points[start + (k * step)]);
            bool IsThere(int k) => start + (k * step) is var at && at >= 0 && at < _points.Count;
            for (var k = 1; k <= mostStitches && IsThere(k) && Length(k) <= TieStitch; k++)
            {
                var (at, away) = (_points[start + (k * step)], _points[start + (k * step)].DistanceTo(_points[start]));
                small = k;
                if (tiny == k - 1 && Length(k) <= TinyStep) tiny = k;
                if (away <= TieSpot && twoSpots) between = k;
                else if (twoSpots && (other ??= at).DistanceTo(at) <= TieSpot) between = k;
                else twoSpots = false;
                if (away <= ReturnSpot) returned = k;
            }

            // The last small stitch may already lead away.
            var held = Math.Max(between, returned);
            if (held < fewestStitches && tiny >= fewestStitches && tiny == small && IsThere(tiny + 1) && Length(tiny + 1) >= StepAfter * TinyStep) held = tiny;
            return held < fewestStitches ? start : start + (held * step);
        }

        private void Ladders(int from, int to)
        {
            var legs = Legs(from, to);
            var plainFrom = from;
            for (var i = 0; i < legs.Count;)
            {
                var ladder = Climb(legs, i);
                if (ladder.Count > 0 && i + 1 < legs.Count && Climb(legs, i + 1) is { Count: > 0 } later && later.Count > ladder.Count + 1) ladder = [];
                if (ladder.Count == 0)
                {
                    i++;
                    continue;
                }

                var (first, last) = (legs[ladder[0]].From, legs[ladder[^1]].To);
                Plain(plainFrom, first);
                AddLadder(ladder.ConvertAll(l => legs[l]));
                plainFrom = last;
                i = ladder[^1] + 1;
            }

            Plain(plainFrom, to);
        }

        private double Length(Leg leg) => _points[leg.From].DistanceTo(_points[leg.To]);

        private List<Leg> Legs(int from, int to)
        {
            var legs = new List<Leg>();
            var start = from;
            for (var i = from + 1; i <= to; i++)
            {
                if (i < to && GoesOnTo(start, i, i + 1)) continue;
                legs.Add(new(start, i));
                start = i;
            }

            for (var i = 1; i < legs.Count; i++)
            {
                var bend = Bend(legs[i - 1], legs[i]);
                (legs[i - 1], legs[i]) = (legs[i - 1] with { To = bend }, legs[i] with { From = bend });
            }

            return legs;
        }

        /// <summary>
        /// Where one leg really ends and the next begins. Rows that meet an edge at a small angle lie nearly in line with the step along it; then the point that leaves the least
        /// beside both legs is the bend.
        /// </summary>
        private int Bend(Leg a, Leg b)
        {
            const int reach = 8;
            if ((_points[a.To] - _points[a.From]).Dot(_points[b.To] - _points[b.From]) < 0) return a.To;
            var (best, least) = (a.To, OffLineSum(a.From, a.To) + OffLineSum(b.From, b.To));
            for (var at = Math.Max(a.From + 1, a.To - reach); at <= Math.Min(b.To - 1, a.To + reach); at++)
                if (OffLineSum(a.From, at) + OffLineSum(at, b.To) is var cost && cost < least - 1e-6)
                    (best, least) = (at, cost);
            return best;
        }

        /// <summary>Sum of squares of how far the points between two lie beside the line from one to the other, mm².</summary>
        private double OffLineSum(int from, int to)
        {
            var line = (_points[to] - _points[from]).Unit();
            var sum = 0.0;
            for (var k = from + 1; k < to; k++) sum += Math.Pow(line.Cross(_points[k] - _points[from]), 2);
            return sum;
        }

        /// <summary>Whether the points from one on still lie on a line when another is added.</summary>
        private bool GoesOnTo(int start, int last, int next)
        {
            var (way, edge) = (_points[last] - _points[start], _points[next] - _points[last]);
            if (way.Dot(edge) < GoesOn * way.Length * edge.Length) return false;
            WorkBudget.Current.Spend((last - start) / 16);
            var line = (_points[next] - _points[start]).Unit();
            for (var k = start + 1; k <= last; k++)
            {
                // Of long rows only some of the points need be looked at.
                if (k > start + 3 && k < last - 3 && (k - start) % 4 != 0) continue;
                if (Math.Abs(line.Cross(_points[k] - _points[start])) > OffLine) return false;
            }

            return true;
        }

        /// <summary>The legs of the ladder that begins at a leg, or none.</summary>
        private List<int> Climb(List<Leg> legs, int at)
        {
            var rungs = new List<int> { at };
            var (side, usual, total, steps) = (0, 0.0, 0.0, 0);
            while (true)
            {
                var (next, longest, chosen, between) = (-1, 0.0, 0.0, 0.0);
                for (var step = 1; step <= 3 && rungs[^1] + step < legs.Count; step++)
                {
                    var candidate = rungs[^1] + step;
                    var length = Length(legs[candidate]);

                    // What lies between two rows is a step along the edge; of a step and a row that both go back the row is meant.
                    if (between <= Math.Min(LongestStep, StepOfRow * length) && length > longest && Beside(legs[rungs[^1]], legs[candidate], step > 1) is { } aside)
                    {
                        // Seen along the way of a leg the next lies to one side, seen along the way of that one to the other.
                        var spacing = rungs.Count % 2 == 1 ? aside : -aside;

                        // Rows do not come nearer to each other than they are wont to: what does is the way back over the last one.
                        var least = rungs.Count > 3 && steps * 5 > rungs.Count * 3 ? NearestRow * usual : -WrongWay;
                        if (side == 0 || (spacing * side >= least && Math.Abs(spacing) <= (2.8 * usual) + 0.1)) (next, longest, chosen) = (candidate, length / LongerStep, spacing);
                    }

                    between += length;
                }

                if (next < 0) break;
                if (side == 0 || rungs.Count < 4) side = Math.Sign(chosen + (side * 0.01));
                total += Math.Abs(chosen);
                if (next > rungs[^1] + 1) steps++;
                rungs.Add(next);
                usual = total / (rungs.Count - 1);
            }

            var few = usual > WideSpacing / 2 ? FewestWideRungs : FewestRungs;
            return rungs.Count >= few && usual >= LeastSpacing ? rungs : [];
        }

        /// <summary>How far to the side the second of two legs lies that go back and forth beside each other, mm, with a sign; null when they do not.</summary>
        private double? Beside(Leg a, Leg b, bool stepped)
        {
            var (va, vb) = (_points[a.To] - _points[a.From], _points[b.To] - _points[b.From]);
            var (la, lb) = (va.Length, vb.Length);
            if (va.Dot(vb) > Back * la * lb) return null;
            var (shorter, longer) = (Math.Min(la, lb), Math.Max(la, lb));
            if (shorter < LeastLengthRatio * longer && longer - shorter > AlwaysAlike) return null;
            var along = (va.Unit() - vb.Unit()).Unit();
            var (middleA, middleB) = (_points[a.From].Toward(_points[a.To], 0.5), _points[b.From].Toward(_points[b.To], 0.5));
            var spacing = along.Cross(middleB - middleA);

            if (Math.Abs(spacing) > WidestSpacing) return null;
            var (a0, a1, b0, b1) = (along.Dot(_points[a.From]), along.Dot(_points[a.To]), along.Dot(_points[b.To]), along.Dot(_points[b.From]));
            if (Math.Min(a1, b1) - Math.Max(a0, b0) < LeastOverlap * shorter) return null;
            if (stepped)
            {
                var step = _points[a.To].DistanceTo(_points[b.From]);
                if (step > LongestStep || step > Math.Max(Math.Max(1.0, 0.8 * shorter), (3 * Math.Abs(spacing)) + 0.3)) return null;
            }

            return spacing;
        }

        private void AddLadder(List<Leg> legs)
        {
            var spacings = new List<double>();
            var (stepped, lengths, inRow) = (0, new List<double>(), new List<double>());
            for (var k = 0; k < legs.Count; k++)
            {
                var leg = legs[k];
                lengths.Add(_points[leg.From].DistanceTo(_points[leg.To]));
                for (var i = leg.From + 1; i < leg.To - 1; i++) inRow.Add(_points[i].DistanceTo(_points[i + 1]));
                if (k == 0) continue;
                if (legs[k - 1].To != leg.From) stepped++;
                spacings.Add(Math.Abs(Beside(legs[k - 1], leg, false) ?? 0));
            }

            var isStepped = stepped * 2 > legs.Count - 1;
            var (usualLength, usual, sameSide) = (Median(lengths), Median(spacings), SameSide(legs));

            // Long rows on the slant differ from split throws in that more than one needle point lies in most, or in that they lie twice as far apart on either side.
            var rows = usualLength > Limits.LongestThrow && (inRow.Count >= legs.Count || (inRow.Count * 2 >= legs.Count && sameSide > SatinSpacing));
            var kind = isStepped || (rows && TurnOf(legs) < 8) ? PassageKind.Fill : PassageKind.Satin;
            var uneven = usual < 1e-9 ? 1 : Median([.. spacings.Zip(spacings.Skip(1), (a, b) => Math.Abs(a - b))]) / usual;
            Add(kind, legs[0].From, legs[^1].To, p => p with
            {
                Rungs = [.. legs.Select(l => new LadderRung(_records[l.From], _records[l.To]))],
                Stepped = isStepped,
                SpacingMm = kind == PassageKind.Fill ? usual : sameSide,
                StitchLength = inRow.Count > 0 ? Median(inRow) : 0,
                Confidence = AreSpokes(legs, usualLength) ? NotUnderstood : Math.Clamp(1 - (0.5 * uneven) - (legs.Count < 6 ? 0.15 : 0), legs.Count < FewestWideRungs ? 0.3 : Passage.Sure, 1),
            });
        }

        private void AddRings(RingStretch rings)
        {
            var lengths = Enumerable.Range(rings.From, rings.To - rings.From).Select(i => _points[i].DistanceTo(_points[i + 1])).ToList();
            Add(PassageKind.Fill, rings.From, rings.To, p => p with { InRings = true, SpacingMm = rings.SpacingMm, StitchLength = Median(lengths), Confidence = rings.Confidence });
        }

        /// <summary>Rungs that begin or end at the hub of spokes are spokes too, however few follow each other.</summary>
        private void AboutHubs(int firstPassage)
        {
            for (var n = firstPassage; n < _passages.Count && _hubs.Count > 0; n++)
            {
                var rungs = _passages[n].Rungs;
                bool Touches(LadderRung rung) => _hubs.Exists(h => Math.Min(_blob.At(rung.First).DistanceTo(h.At), _blob.At(rung.Last).DistanceTo(h.At)) <= 2 * Hub * h.Length);
                if (rungs.Length > 0 && rungs.Count(Touches) > MostOfRungs * rungs.Length) _passages[n] = _passages[n] with { Confidence = Math.Min(_passages[n].Confidence, NotUnderstood) };
            }
        }

        /// <summary>Whether legs run out from one place and back, all around it: their spacing grows with the distance from there.</summary>
        private bool AreSpokes(List<Leg> legs, double usualLength)
        {
            var (turn, ends) = (0.0, new List<Point>[] { [], [] });
            for (var k = 0; k < legs.Count; k++)
            {
                ends[k % 2].Add(_points[legs[k].From]);
                ends[1 - (k % 2)].Add(_points[legs[k].To]);
                if (k == 0) continue;
                var (a, b) = (_points[legs[k - 1].To] - _points[legs[k - 1].From], _points[legs[k].From] - _points[legs[k].To]);
                turn += Math.Abs(Math.Atan2(a.Cross(b), a.Dot(b))) * 180 / Math.PI;
            }

            foreach (var end in ends)
            {
                var hub = end.Aggregate(Point.Zero, (sum, p) => sum + p) * (1.0 / end.Count);
                if (!end.TrueForAll(p => p.DistanceTo(hub) <= Hub * usualLength)) continue;

                if (turn <= SpokesTurn) continue;
                _hubs.Add((hub, usualLength));
                return true;
            }

            return false;
        }

        /// <summary>How far the direction changes over a ladder, degrees, from its first third to its last.</summary>
        private double TurnOf(List<Leg> legs)
        {
            var third = Math.Max(1, legs.Count / 3);
            Point Way(int first) => Enumerable.Range(first, third).Aggregate(Point.Zero, (sum, k) => sum + ((_points[legs[k].To] - _points[legs[k].From]) * (k % 2 == 0 ? 1 : -1))).Unit();
            var (a, b) = (Way(0), Way(legs.Count - third));
            return Math.Abs(Math.Atan2(a.Cross(b), Math.Abs(a.Dot(b)))) * 180 / Math.PI;
        }

        /// <summary>Usual distance of needle points on the side where it is longer, square to the throws: those that stop short on the inside of a bend count as if they did not.</summary>
        private double SameSide(List<Leg> legs)
        {
            var gaps = new List<double>();
            for (var k = 2; k < legs.Count; k++)
            {
                var (a, b) = (legs[k - 2], legs[k]);
                var along = (_points[a.To] - _points[a.From] + (_points[b.To] - _points[b.From])).Unit();
                gaps.Add(Math.Max(Math.Abs(along.Cross(_points[b.From] - _points[a.From])), Math.Abs(along.Cross(_points[b.To] - _points[a.To]))));
            }

            return Median(gaps);
        }

        private void Plain(int from, int to)
        {
            if (to <= from) return;
            var lengths = new List<double>();
            var sharp = 0;
            for (var i = from; i < to; i++)
            {
                lengths.Add(_points[i].DistanceTo(_points[i + 1]));
                if (i > from && (_points[i] - _points[i - 1]).Dot(_points[i + 1] - _points[i]) < 0) sharp++;
            }

            var usual = Median(lengths);
            var triple = Tripled(from, to);
            var wild = lengths.Count(l => l > 2.5 * usual || l < usual / 2.5) / (double)lengths.Count;
            Add(triple ? PassageKind.TripleRun : PassageKind.Run, from, to, p => p with
            {
                StitchLength = usual,
                Confidence = triple ? 0.95 : RingReading.Neighboured(_points, from, to) > RowsOfAKind ? NotUnderstood : Math.Clamp(1 - (sharp / (double)lengths.Count) - (0.4 * wild), 0.2, 1),
            });
        }

        /// <summary>Whether each stitch is sewn forward, back and forward.</summary>
        private bool Tripled(int from, int to)
        {
            var (told, stitches) = (0, to - from);
            if (stitches < 6) return false;
            for (var i = from; i + 3 <= to;)
            {
                if (_points[i].DistanceTo(_points[i + 2]) < TieSpot && _points[i + 1].DistanceTo(_points[i + 3]) < TieSpot)
                {
                    told += 3;
                    i += 3;
                }
                else
                {
                    i++;
                }
            }

            return told >= 0.8 * stitches;
        }

        private void Add(PassageKind kind, int from, int to, Func<Passage, Passage>? more = null)
        {
            var passage = new Passage(kind, _records[from], _records[to]);
            _passages.Add(more is null ? passage : more(passage));
        }
    }

    /// <summary>Marks what later dense passages lie over.</summary>
    private static ImmutableArray<Passage> MarkUnder(StitchBlob blob, List<Passage> passages)
    {
        if (passages.Count == 0) return [];
        var grid = new CellGrid(blob.BoundsOf(passages[0].First, passages[^1].Last - passages[0].First + 1), UnderCell);
        for (var n = 0; n < passages.Count; n++)
            if (passages[n].IsDense && passages[n].Confidence >= Passage.Sure)
                LadderArea.Fill(grid, blob, passages[n], n + 1);

        return
        [
            .. passages.Select((p, n) =>
            {
                if (p.Kind == PassageKind.Tie) return p;
                var (under, all) = (0, 0);
                for (var i = p.First; i < p.Last; i++)
                {
                    all++;
                    if (grid.At(blob.At(i).Toward(blob.At(i + 1), 0.5)) > n + 1) under++;
                }

                return p with { IsUnder = under >= UnderShare * all };
            }),
        ];
    }

    private static double Median(List<double> values)
    {
        if (values.Count == 0) return 0;
        var sorted = values.ToArray();
        Array.Sort(sorted);
        return sorted[sorted.Length / 2];
    }
}
