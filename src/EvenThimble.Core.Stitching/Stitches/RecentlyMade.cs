using EvenThimble.Core.Work;

namespace EvenThimble.Core.Stitches;

/// <summary>Remembers the recent results of a costly computation by what they depend on. May be used from several threads: what one of them makes, the others wait for.</summary>
/// <param name="mostWeight">How much is kept in all; the latest result is kept whatever it weighs.</param>
/// <param name="weigh">The weight of a result.</param>
public sealed class RecentlyMade<TAsked, TMade>(long mostWeight, Func<TMade, long> weigh)
    where TAsked : notnull
{
    private const int LookAfterMilliseconds = 100;
    private readonly object _lock = new();
    private readonly Dictionary<TAsked, LinkedListNode<(TAsked Asked, TMade Made)>> _known = [];
    private readonly LinkedList<(TAsked Asked, TMade Made)> _recent = [];
    private readonly HashSet<TAsked> _making = [];
    private long _weight;

    /// <summary>The remembered result, or the one that is made now. Making it may fail; then the next one who asks tries again.</summary>
    public TMade Get(TAsked asked, Func<TMade> make)
    {
        lock (_lock)
        {
            while (true)
            {
                if (_known.TryGetValue(asked, out var node))
                {
                    _recent.Remove(node);
                    _recent.AddFirst(node);
                    return node.Value.Made;
                }

                if (_making.Add(asked)) break;
                WorkBudget.Current.Look();
                Monitor.Wait(_lock, LookAfterMilliseconds);
            }
        }

        try
        {
            var made = make();
            lock (_lock)
            {
                Keep(asked, made);
            }

            return made;
        }
        finally
        {
            lock (_lock)
            {
                _making.Remove(asked);
                Monitor.PulseAll(_lock);
            }
        }
    }

    private void Keep(TAsked asked, TMade made)
    {
        _known[asked] = _recent.AddFirst((asked, made));
        for (_weight += weigh(made); _weight > mostWeight && _recent.Count > 1; _recent.RemoveLast())
        {
            var (oldest, its) = _recent.Last!.Value;
            _known.Remove(oldest);
            _weight -= weigh(its);
        }
    }
}
