using EvenThimble.Core.Work;

namespace EvenThimble.Core.Hoopings;

/// <summary>
/// The cheapest way to part nodes into those kept and those left, by a least cut. The flow is found by levels: E. A. Dinic, Algorithm for solution of a problem of maximum flow in networks with power
/// estimation, Soviet Mathematics Doklady 11 (1970). With n nodes and m links at most n²m steps, in practice about as many as there are links.
/// </summary>
internal sealed class LeastCut
{
    /// <summary>What must not be.</summary>
    public const long Forbidden = 1L << 40;

    private readonly int _source;
    private readonly int _sink;
    private readonly int[] _head;
    private readonly List<int> _to = [];
    private readonly List<int> _next = [];
    private readonly List<long> _room = [];

    /// <summary>Without links.</summary>
    public LeastCut(int nodes)
    {
        (_source, _sink, _head) = (nodes, nodes + 1, new int[nodes + 2]);
        Array.Fill(_head, -1);
    }

    /// <summary>What it costs to keep a node, and what to leave it.</summary>
    public void Costs(int node, long toKeep, long toLeave)
    {
        var common = Math.Min(toKeep, toLeave);
        if (toLeave > common) Link(_source, node, toLeave - common, 0);
        if (toKeep > common) Link(node, _sink, toKeep - common, 0);
    }

    /// <summary>What it costs to part two nodes.</summary>
    public void Together(int a, int b, long cost) => Link(a, b, cost, cost);

    /// <summary>Who keeps the one must keep the other.</summary>
    public void Needs(int kept, int needed) => Link(kept, needed, Forbidden, 0);

    /// <summary>By node whether it is kept.</summary>
    public bool[] Solve()
    {
        var (level, at, queue) = (new int[_head.Length], new int[_head.Length], new Queue<int>());
        var path = new List<int>();
        while (Levels(level, queue))
        {
            _head.CopyTo(at, 0);
            while (Push(level, at, path)) WorkBudget.Current.Spend(path.Count);
        }

        // What the source still reaches is kept.
        return [.. level.Take(_head.Length - 2).Select(l => l >= 0)];
    }

    private void Link(int a, int b, long room, long back)
    {
        Add(a, b, room);
        Add(b, a, back);
    }

    private void Add(int from, int to, long room)
    {
        _to.Add(to);
        _room.Add(room);
        _next.Add(_head[from]);
        _head[from] = _to.Count - 1;
    }

    private bool Levels(int[] level, Queue<int> queue)
    {
        Array.Fill(level, -1);
        level[_source] = 0;
        queue.Enqueue(_source);
        while (queue.TryDequeue(out var node))
        {
            WorkBudget.Current.Spend();
            for (var e = _head[node]; e >= 0; e = _next[e])
            {
                if (_room[e] <= 0 || level[_to[e]] >= 0) continue;
                level[_to[e]] = level[node] + 1;
                queue.Enqueue(_to[e]);
            }
        }

        return level[_sink] >= 0;
    }

    /// <summary>Sends what it can along one more way from the source to the sink; without recursion, since ways may be long.</summary>
    private bool Push(int[] level, int[] at, List<int> path)
    {
        path.Clear();
        var node = _source;
        while (node != _sink)
        {
            var e = at[node];
            while (e >= 0 && (_room[e] <= 0 || level[_to[e]] != level[node] + 1)) e = _next[e];
            at[node] = e;
            if (e >= 0)
            {
                path.Add(e);
                node = _to[e];
                continue;
            }

            if (path.Count == 0) return false;
            level[node] = -2;
            node = _to[path[^1] ^ 1];
            path.RemoveAt(path.Count - 1);
        }

        var least = path.Min(e => _room[e]);
        foreach (var e in path)
        {
            _room[e] -= least;
            _room[e ^ 1] += least;
        }

        return true;
    }
}
