using EvenThimble.Core.Colour;
using EvenThimble.Core.Rack;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.Tests.Rack;

/// <summary>What a job is sewn with, measured apart from the program: by the plain nearest of each thread, and on small racks by all there is.</summary>
public class RackMatchingTests
{
    private static readonly IReadOnlySet<(int One, int Other)> None = new HashSet<(int, int)>();

    [Fact]
    public void Where_each_nearest_is_another_the_sum_is_that_of_the_nearest()
    {
        var random = new Random(11);
        var (alike, apart) = (0, 0);
        for (var n = 0; n < 60; n++)
        {
            var (job, rack) = (Looks(random, 12, "J"), Looks(random, 400, "R"));
            var found = RackMatching.Find(job.ConvertAll(Wanted), rack, None);
            var nearest = job.ConvertAll(j => rack.MinBy(r => Difference(j.Thread, r.Thread))!);
            if (nearest.Select(r => r.Thread).Distinct().Count() == job.Count)
            {
                apart++;
                found.Sum(f => f.To!.Difference).ShouldBe(job.Zip(nearest).Sum(p => Difference(p.First.Thread, p.Second.Thread)), 1e-9);
            }
            else
            {
                alike++;
            }

            found.Select(f => f.To!.Thread).Distinct().Count().ShouldBe(job.Count, "a thread of its own for each");
        }

        alike.ShouldBeGreaterThan(5);
        apart.ShouldBeGreaterThan(5);
    }

    [Fact]
    public void No_two_threads_lie_on_one_cone_while_another_near_one_is_free_and_no_other_choice_is_cheaper()
    {
        var random = new Random(12);
        for (var n = 0; n < 300; n++)
        {
            var (job, rack) = (Looks(random, 4, "J", near: 14), Looks(random, 6, "R", near: 25));
            var found = RackMatching.Find(job.ConvertAll(Wanted), rack, None);
            foreach (var one in found.Where(f => f.IsShared))
                rack.Where(r => found.All(f => f.To!.Thread != r.Thread) && Difference(one.From, r.Thread) <= RackMatching.RatherApart).ShouldBeEmpty();
            var best = AllChoices(job.Count, rack.Count)
                .Where(c => c.Distinct().Count() == c.Length)
                .Min(c => c.Select((cone, j) => Difference(job[j].Thread, rack[cone].Thread)).Sum());
            found.Where(f => !f.IsShared).Sum(f => f.To!.Difference).ShouldBeLessThanOrEqualTo(best + 1e-9);
            if (found.All(f => !f.IsShared)) found.Sum(f => f.To!.Difference).ShouldBe(best, 1e-9);
        }
    }

    [Fact]
    public void What_touches_keeps_apart_and_its_darker_stays_darker()
    {
        var random = new Random(13);
        for (var n = 0; n < 200; n++)
        {
            var (job, rack) = (Looks(random, 6, "J", near: 40), Looks(random, 200, "R"));
            var touching = new HashSet<(int, int)> { (0, 1), (1, 2), (2, 3), (4, 5) };
            var found = RackMatching.Find(job.ConvertAll(Wanted), rack, touching);
            foreach (var (one, other) in touching)
            {
                var (a, b, x, y) = (Look(job[one].Thread), Look(job[other].Thread), Look(found[one].To!.Thread), Look(found[other].To!.Thread));
                if (Math.Abs(a.L - b.L) > 6) ((a.L - b.L) * (x.L - y.L)).ShouldBeGreaterThan(0);
                ColourDifference.Ciede2000(x, y).ShouldBeGreaterThanOrEqualTo(Math.Min(4, 0.4 * ColourDifference.Ciede2000(a, b)) - 1e-9);
            }

            found.Where(f => f.LosesContrast).ShouldBeEmpty();
        }
    }

    [Fact]
    public void Where_nothing_keeps_them_apart_that_is_said()
    {
        var (red, orange) = (Of("J", "1", 0xC02020), Of("J", "2", 0xE06020));
        var found = RackMatching.Find([Wanted(red), Wanted(orange)], [Of("R", "1", 0xC83020)], new HashSet<(int, int)> { (0, 1) });
        found.ShouldAllBe(f => f.To!.Thread.Number == "1" && f.IsShared && f.LosesContrast);
        RackMatching.Find([Wanted(red)], [], None)[0].To.ShouldBeNull();
    }

    [Fact]
    public void Metallic_is_sewn_with_metallic_and_fine_with_fine()
    {
        var gold = new WantedThread(Of("J", "1", 0xC9962B).Thread, ThreadMake.Of("Metallic"));
        var (rayon, foil) = (new OwnedThread(Of("R", "1", 0xC9962B).Thread, ThreadMake.Of("Rayon 40")), new OwnedThread(Of("R", "2", 0xA0A0A0).Thread, ThreadMake.Of("Metallic")));
        var found = RackMatching.Find([gold], [rayon, foil], None)[0];
        found.To!.Thread.Number.ShouldBe("2");
        found.IsGood.ShouldBeFalse();
        found.Next.ShouldBeEmpty();
        var fine = new WantedThread(Of("J", "2", 0x808080).Thread, ThreadMake.Of("Rayon 60"));
        RackMatching.Find([fine], [rayon, new(Of("R", "3", 0x202020).Thread, ThreadMake.Of("poly 60 wt"))], None)[0].To!.Thread.Number.ShouldBe("3");
        RackMatching.Find([fine], [new(Of("R", "3", 0x202020).Thread, ThreadMake.Of("Polyester 60"))], None, spunAlike: true)[0].To.ShouldBeNull();
    }

    [Fact]
    public void What_the_user_says_holds_and_the_rest_is_found_around_it()
    {
        var job = new[] { Of("J", "1", 0x2F4B7C), Of("J", "2", 0x30507F) };
        var rack = new[] { Of("R", "1", 0x2F4B7C), Of("R", "2", 0x3A5A88), Of("J", "2", 0xFFFFFF) };
        var found = RackMatching.Find([Wanted(job[0]) with { Held = rack[1].Thread }, Wanted(job[1])], rack, None);
        found[0].To!.Thread.ShouldBe(rack[1].Thread);
        found[0].IsHeld.ShouldBeTrue();
        found[1].To!.Difference.ShouldBe(0, "the very same thread, whatever colour the file gave it");
        found[1].To!.Says.ShouldBe("the same thread");
        found[0].Next[0].Thread.ShouldBe(rack[0].Thread);
    }

    [Fact]
    public void One_article_under_two_names_is_sewn_from_one_cone()
    {
        var (one, other) = (Of("R", "7", 0x2F4B7C).Thread, Of("R", "7", 0x3A5A88).Thread with { Name = "as another file has it" });
        var found = RackMatching.Find([new(one, ThreadMake.Unknown), new(other, ThreadMake.Unknown)], [Of("R", "7", 0x2F4B7C), Of("R", "8", 0x3A5A88)], new HashSet<(int, int)> { (0, 1) });
        found.ShouldAllBe(f => f.To!.Thread.Number == "7" && !f.IsShared && !f.LosesContrast);
    }

    [Theory]
    [InlineData(0x2F4B7C, 0x2F4B7C, "looks the same")]
    [InlineData(0x808080, 0x8C8C8C, "lighter")]
    [InlineData(0x808080, 0x707070, "darker")]
    [InlineData(0x80803C, 0x5E8550, "greener")]
    [InlineData(0xB04040, 0xC03030, "brighter")]
    [InlineData(0xA63A3C, 0xA06060, "duller")]
    [InlineData(0x5050A0, 0x6A50A0, "redder")]
    public void A_difference_is_told_in_words(int wanted, int looks, string says) =>
        ColourDifference.InWords(Lab.From(Rgb.FromInt(wanted)), Lab.From(Rgb.FromInt(looks))).ShouldContain(says);

    private static OwnedThread Of(string maker, string number, int colour) => new(new(maker, number, $"{maker} {number}", Rgb.FromInt(colour)), ThreadMake.Unknown);

    private static WantedThread Wanted(OwnedThread thread) => new(thread.Thread, thread.Make);

    private static Lab Look(SewingThread thread) => Lab.From(thread.Colour);

    private static double Difference(SewingThread one, SewingThread other) => ColourDifference.Ciede2000(Look(one), Look(other));

    private static List<OwnedThread> Looks(Random random, int count, string maker, int near = 255)
    {
        var (r, g, b) = (random.Next(256 - near), random.Next(256 - near), random.Next(256 - near));
        return [.. Enumerable.Range(1, count).Select(n => Of(maker, $"{n}", ((r + random.Next(near + 1)) << 16) | ((g + random.Next(near + 1)) << 8) | (b + random.Next(near + 1))))];
    }

    private static IEnumerable<int[]> AllChoices(int threads, int cones) =>
        Enumerable.Range(0, (int)Math.Pow(cones, threads)).Select(n => Enumerable.Range(0, threads).Select(t => n / (int)Math.Pow(cones, t) % cones).ToArray());
}
