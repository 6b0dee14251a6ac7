using EvenThimble.Core.Colour;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Tests.Rack;

/// <summary>Needles, compared with all that could be done.</summary>
public class NeedlePlanTests
{
    [Fact]
    public void No_choice_changes_fewer_cones()
    {
        var random = new Random(5);
        for (var n = 0; n < 400; n++)
        {
            var needles = random.Next(1, 4);
            var now = Enumerable.Range(0, needles).Select(_ => random.Next(3) == 0 ? null : Thread(random.Next(5))).ToArray();
            for (var i = 1; i < now.Length; i++)
                if (now[i] is { } same && now.Take(i).Contains(same)) now[i] = null;
            var parts = Enumerable.Range(0, random.Next(1, 9)).Select(_ => Thread(random.Next(5))).ToList();
            var plan = NeedlePlan.For(parts, now);
            plan.Changes.Length.ShouldBe(Fewest(parts, 0, now), $"{string.Join(' ', parts.Select(p => p.Number))} on {string.Join(' ', now.Select(p => p?.Number ?? "-"))}");

            // It can be done just as it is told.
            var on = now.ToArray();
            for (var p = 0; p < parts.Count; p++)
            {
                foreach (var change in plan.Changes.Where(c => c.Before == p))
                {
                    on[change.Needle - 1].ShouldBe(change.Off);
                    on[change.Needle - 1] = change.On;
                }

                on[plan.NeedleOfPart[p] - 1].ShouldBe(parts[p]);
            }

            on.ShouldBe(plan.Afterwards);
            if (parts.Distinct().Count() <= needles) plan.Changes.Where(c => c.Before != 0).ShouldBeEmpty();
        }
    }

    [Fact]
    public void What_is_threaded_already_stays_whatever_colour_a_file_gave_it()
    {
        var plan = NeedlePlan.For([Thread(1) with { Colour = Rgb.FromInt(0x123456) }, Thread(7)], [null, Thread(1), Thread(2)]);
        plan.NeedleOfPart.ShouldBe([2, 1]);
        plan.Changes.ShouldBe([new(1, null, Thread(7), 0)]);
        Should.Throw<ArgumentException>(() => NeedlePlan.For([Thread(1)], []));
    }

    private static SewingThread Thread(int n) => new("Fenlight", $"{1001 + (3 * n)}", $"thread {n}", Rgb.FromInt(n * 3000));

    private static int Fewest(List<SewingThread> parts, int at, SewingThread?[] on)
    {
        if (at == parts.Count) return 0;
        if (on.Contains(parts[at])) return Fewest(parts, at + 1, on);
        return 1 + Enumerable.Range(0, on.Length).Min(needle =>
        {
            var then = on.ToArray();
            then[needle] = parts[at];
            return Fewest(parts, at + 1, then);
        });
    }
}
