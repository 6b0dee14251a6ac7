namespace EvenThimble.Core.Stitches;

/// <summary>Something that is made when it is first wanted, and kept. Unlike a lazy value it forgets that it failed, so that somebody who stopped waiting spoils nothing for the next.</summary>
public sealed class Made<T>(Func<T> make)
{
    private readonly RecentlyMade<int, T> _kept = new(0, _ => 0);

    /// <summary>The value.</summary>
    public T Value => _kept.Get(0, make);
}
