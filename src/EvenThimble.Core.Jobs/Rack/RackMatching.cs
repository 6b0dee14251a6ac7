using System.Collections.Immutable;
using EvenThimble.Core.Colour;
using EvenThimble.Core.Threads;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Rack;

/// <summary>A thread that could be sewn with, and what sort it is.</summary>
public sealed record OwnedThread(SewingThread Thread, ThreadMake Make);

/// <summary>A thread of a job that another is looked for.</summary>
/// <param name="Thread">As the job has it.</param>
/// <param name="Make">What sort it is, as far as a chart says.</param>
/// <param name="Held">What it is to be, because the user said so, now or earlier; null: the nearest.</param>
public sealed record WantedThread(SewingThread Thread, ThreadMake Make, SewingThread? Held = null);

/// <summary>A thread that could take the place of another.</summary>
/// <param name="Thread">The thread.</param>
/// <param name="Difference">CIEDE2000; 0 for the very same thread.</param>
/// <param name="Says">The difference in words.</param>
public sealed record ThreadCandidate(SewingThread Thread, double Difference, string Says);

/// <summary>What a thread of a job would be sewn with.</summary>
/// <param name="From">As the job has it.</param>
/// <param name="To">With what; null where nothing at hand sews like it.</param>
/// <param name="Next">The next best, nearest first.</param>
public sealed record MatchedThread(SewingThread From, ThreadCandidate? To, ImmutableArray<ThreadCandidate> Next)
{
    /// <summary>From here on a match is another colour.</summary>
    public const double FarthestGood = 10;

    /// <summary>Whether it looks like what was meant.</summary>
    public bool IsGood => To is { Difference: < FarthestGood };

    /// <summary>The user said so, now or earlier.</summary>
    public bool IsHeld { get; init; }

    /// <summary>Another, different thread of the job would be sewn with it too: nothing else is near.</summary>
    public bool IsShared { get; init; }

    /// <summary>What it touches was farther from it in look, or lay on the other side of it from dark to light; nothing at hand keeps that.</summary>
    public bool LosesContrast { get; init; }
}

/// <summary>
/// Finds what a whole job is sewn with. Each thread of it gets a thread of its own, so that the sum of differences is least (<see cref="Assignment"/>); then threads that touch are looked at,
/// and given others where they would lose each other, or dark would become lighter than light.
/// </summary>
public static class RackMatching
{
    /// <summary>Two threads of a job come to lie on one cone only where no other within this difference is free.</summary>
    public const double RatherApart = 5;

    // Dearer than any thread that must be taken instead, so that the cheapest of all keeps to that rule.
    private const double Sharing = RatherApart + 1;
    private const double NeverShared = 60;

    // The very thread that a job names is taken rather than any other that looks like it.
    private const double TheVeryThread = -20;

    // What touches stays as far apart as this part of what it was, or as this; and its darker stays the darker where one sees that it is.
    private const double KeptPart = 0.4;
    private const double ApartEnough = 4;
    private const double SeenDarker = 6;
    private const double LostContrast = 12;

    private const int MostNext = 5;
    private const int MostTried = 24;
    private const int MostRounds = 40;

    /// <summary>What each thread would be sewn with, in the order of the wanted.</summary>
    /// <param name="wanted">The threads of a job, each once.</param>
    /// <param name="rack">What is at hand, each once.</param>
    /// <param name="touching">Pairs of wanted threads that touch on the cloth, by their numbers.</param>
    /// <param name="spunAlike">Whether only threads of the same fibre will do.</param>
    public static ImmutableArray<MatchedThread> Find(IReadOnlyList<WantedThread> wanted, IReadOnlyList<OwnedThread> rack, IReadOnlySet<(int One, int Other)> touching, bool spunAlike = false) =>
        new Search(wanted, rack, touching, spunAlike).Run();

    private sealed class Search
    {
        private readonly IReadOnlyList<WantedThread> _wanted;
        private readonly IReadOnlyList<OwnedThread> _rack;
        private readonly List<(int One, int Other)> _touching;
        private readonly Lab[] _looks;
        private readonly Lab[] _wantedLooks;
        private readonly double[][] _difference;
        private readonly (int Cone, double Difference)[][] _near;
        private readonly int[] _held;
        private readonly int[] _chosen;

        public Search(IReadOnlyList<WantedThread> wanted, IReadOnlyList<OwnedThread> rack, IReadOnlySet<(int One, int Other)> touching, bool spunAlike)
        {
            (_wanted, _rack, _touching) = (wanted, rack, [.. touching.Where(t => t.One < wanted.Count && t.Other < wanted.Count).Order()]);
            _looks = [.. rack.Select(r => Lab.From(r.Thread.Colour))];
            _wantedLooks = [.. wanted.Select(w => Lab.From(w.Thread.Colour))];
            _difference = [.. wanted.Select((w, n) => DifferencesOf(w, _wantedLooks[n]))];
            _near = [.. wanted.Select((w, n) => Near(w, _difference[n], spunAlike))];
            _held = [.. wanted.Select(w => w.Held is { } held ? Enumerable.Range(0, rack.Count).FirstOrDefault(c => rack[c].Thread.IsSameAs(held), -1) : -1)];
            _chosen = new int[wanted.Count];
        }

        public ImmutableArray<MatchedThread> Run()
        {
            Assign();
            Improve();
            return [.. Enumerable.Range(0, _wanted.Count).Select(Told)];
        }

        /// <summary>What it costs to take each of all that is at hand: the difference, less for the very same thread, whatever colour a file gave it.</summary>
        private double[] DifferencesOf(WantedThread wanted, Lab look)
        {
            WorkBudget.Current.Spend(2 * _rack.Count);
            return [.. _rack.Select((r, c) => r.Thread.IsSameAs(wanted.Thread) ? TheVeryThread : ColourDifference.Ciede2000(look, _looks[c]))];
        }

        /// <summary>All that sews like a thread, nearest first.</summary>
        private (int Cone, double Difference)[] Near(WantedThread wanted, double[] difference, bool spunAlike) =>
        [
            .. Enumerable.Range(0, _rack.Count)
                .Where(c => _rack[c].Thread.IsSameAs(wanted.Thread) || (wanted.Make.SewsLike(_rack[c].Make) && (!spunAlike || wanted.Make.IsSpunLike(_rack[c].Make))))
                .Select(c => (c, difference[c])).OrderBy(n => n.Item2).ThenBy(n => n.c),
        ];

        /// <summary>Each thread a cone of its own at the least sum; one may take its nearest cone at a price although another has it.</summary>
        private void Assign()
        {
            var free = Enumerable.Range(0, _wanted.Count).Where(n => _held[n] < 0 && _near[n].Length > 0).ToList();
            Array.Fill(_chosen, -1);
            for (var n = 0; n < _chosen.Length; n++) _chosen[n] = _held[n];
            var gone = _held.Where(h => h >= 0).ToHashSet();
            var cones = free.SelectMany(n => _near[n].Where(c => !gone.Contains(c.Cone)).Take(_wanted.Count).Select(c => c.Cone)).Distinct().ToList();
            var place = cones.Select((c, i) => (c, i)).ToDictionary(c => c.c, c => c.i);
            var cost = free.ConvertAll(_ => Enumerable.Repeat(1e6, cones.Count + free.Count).ToArray());
            for (var row = 0; row < free.Count; row++)
            {
                var near = _near[free[row]];
                foreach (var (cone, difference) in near)
                    if (place.TryGetValue(cone, out var column)) cost[row][column] = difference;
                cost[row][cones.Count + row] = near[0].Difference + (near.Any(c => c.Difference <= RatherApart && !gone.Contains(c.Cone)) ? NeverShared : Sharing);
            }

            var columns = Assignment.Cheapest([.. cost]);
            for (var row = 0; row < free.Count; row++) _chosen[free[row]] = columns[row] < cones.Count ? cones[columns[row]] : _near[free[row]][0].Cone;
        }

        /// <summary>One thread given another cone, or two that exchange theirs, as long as that makes it better.</summary>
        private void Improve()
        {
            var now = Cost();
            for (var round = 0; round < MostRounds; round++)
            {
                var before = now;
                for (var n = 0; n < _chosen.Length; n++)
                {
                    if (_held[n] >= 0) continue;
                    foreach (var (cone, _) in _near[n].Take(MostTried)) now = Better(now, [(n, cone)]);
                    for (var m = n + 1; m < _chosen.Length; m++)
                        if (_held[m] < 0 && _chosen[n] >= 0 && _chosen[m] >= 0)
                            now = Better(now, [(n, _chosen[m]), (m, _chosen[n])]);
                }

                if (now >= before - 1e-9) return;
            }
        }

        private double Better(double now, ReadOnlySpan<(int Thread, int Cone)> moves)
        {
            WorkBudget.Current.Spend(_wanted.Count);
            Span<int> back = stackalloc int[moves.Length];
            for (var i = 0; i < moves.Length; i++) back[i] = _chosen[moves[i].Thread];
            foreach (var (thread, cone) in moves) _chosen[thread] = cone;
            var then = Cost();
            if (then < now - 1e-9) return then;
            for (var i = 0; i < moves.Length; i++) _chosen[moves[i].Thread] = back[i];
            return now;
        }

        private double Cost()
        {
            var cost = _touching.Count(t => Lost(t.One, t.Other)) * LostContrast;
            for (var n = 0; n < _chosen.Length; n++)
            {
                if (_chosen[n] < 0) continue;
                cost += _difference[n][_chosen[n]];
                if (_held[n] < 0 && IsShared(n)) cost += _near[n].Any(c => c.Difference <= RatherApart && !_chosen.Contains(c.Cone)) ? NeverShared : Sharing;
            }

            return cost;
        }

        /// <summary>Whether another thread has the same cone. One article under two names is one thread.</summary>
        private bool IsShared(int n)
        {
            for (var m = 0; m < _chosen.Length; m++)
                if (m != n && _chosen[m] == _chosen[n] && !_wanted[m].Thread.IsSameAs(_wanted[n].Thread)) return true;
            return false;
        }

        /// <summary>Whether two threads that touch come too near in look, or the darker of them becomes the lighter.</summary>
        private bool Lost(int one, int other)
        {
            if (_chosen[one] < 0 || _chosen[other] < 0 || _wanted[one].Thread.IsSameAs(_wanted[other].Thread)) return false;
            var (a, b, x, y) = (_wantedLooks[one], _wantedLooks[other], _looks[_chosen[one]], _looks[_chosen[other]]);
            if (Math.Abs(a.L - b.L) >= SeenDarker && (a.L - b.L) * (x.L - y.L) <= 0) return true;
            return ColourDifference.Ciede2000(x, y) < Math.Min(KeptPart * ColourDifference.Ciede2000(a, b), ApartEnough);
        }

        private MatchedThread Told(int n)
        {
            var to = _chosen[n];
            return new(_wanted[n].Thread, to < 0 ? null : Candidate(n, to, _difference[n][to]), [.. _near[n].Where(c => c.Cone != to).Take(MostNext).Select(c => Candidate(n, c.Cone, c.Difference))])
            {
                IsHeld = _held[n] >= 0,
                IsShared = to >= 0 && IsShared(n),
                LosesContrast = _touching.Any(t => (t.One == n || t.Other == n) && Lost(t.One, t.Other)),
            };
        }

        private ThreadCandidate Candidate(int n, int cone, double difference) =>
            new(_rack[cone].Thread, Math.Max(0, difference), _rack[cone].Thread.IsSameAs(_wanted[n].Thread) ? "the same thread" : ColourDifference.InWords(_wantedLooks[n], _looks[cone]));
    }
}
