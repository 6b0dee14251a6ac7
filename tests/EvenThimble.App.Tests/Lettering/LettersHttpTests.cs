using System.Globalization;
using System.Net;
using System.Text;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Rendering.Fonts;
using EvenThimble.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests.Lettering;

/// <summary>The Letters task and the Letters screen over real HTTP.</summary>
public sealed class LettersHttpTests() : BenchOverHttp(job: 2)
{
    private FontStore Fonts => Server.Services.GetRequiredService<FontStore>();

    private LetteringContent Written => (LetteringContent)Job.Pieces[^1].Content;

    private static (string, string)[] Form(params (string Name, string Value)[] other) =>
        [.. new[] { ("text", "Iris"), ("font", "Archivo"), ("height", "12"), ("way", "automatic"), ("align", "Centre"), ("optical", "true"), ("kerning", "true"), ("ownKerning", "true") }.Where(f => !other.Any(o => o.Name == f.Item1)), .. other];

    private async Task<string> Said(Task<HttpResponseMessage> answer, HttpStatusCode status = HttpStatusCode.OK)
    {
        var got = await answer;
        var said = WebUtility.HtmlDecode(await got.Content.ReadAsStringAsync());
        got.StatusCode.ShouldBe(status, said.Length < 400 ? said : said[..400]);
        return said;
    }

    [Fact]
    public async Task What_cannot_be_written_is_refused_in_words_and_changes_nothing()
    {
        // One server for all of them: each leaves the job as it was.
        foreach (var (form, says) in new[]
        {
            ("text= ", "no text yet"),
            ("text=🙂🚀", "has none of these"),
            ("text=Iris 🙂", "has no 🙂"),
            ("font=Nimbus of Nowhere", "is not here"),
            ("height=0", "from 2 to 500 mm"),
            ("height=10000", "from 2 to 500 mm"),
            ("height=tall", "not a length"),
            ("width=1", "from 2 to 2000 mm"),
            ("slant=89", "from -45 to 45"),
            ("course=ring&ring=20", "needs a diameter of"),
            ("course=ring&ring=0", "from 5 to 2000"),
            ("course=arc&arc=9999", "from -350 to 350"),
            ("course=path", "Draw one on the cloth"),
            ("course=path&guide=drawn", "needs two points"),
            ("course=path&guide=drawn&guideLine=0,0 here", "nowhere on the cloth"),
            ("course=path&guide=999", "no longer in this job"),
            ("course=path&guide=1&height=300", "guide path"),
            ("bend=arch&amount=900", "amount of a bend"),
            ("font=Lark Small&outline=run", "have no outline"),
            ("piece=77", "no longer in this job"),
            ("align=Sideways", "cannot be understood"),
        })
        {
            var before = Job;
            (await Said(Post("write", Form([.. form.Split('&').Select(p => p.Split('=')).Select(p => (p[0], p[1]))])), HttpStatusCode.UnprocessableEntity)).ShouldContain(says);
            Job.ShouldBe(before);
            (await Said(Post("write", Form(("text", new string('x', 10_000)))), HttpStatusCode.UnprocessableEntity)).ShouldContain("10,000");
        }
    }

    [Fact]
    public async Task A_text_lies_where_the_cloth_was_clicked_in_inches_too_and_around_its_letters_runs_a_line()
    {
        await Said(Post("write", Form(("x", "20"), ("y", "-15"), ("height", ".5in"), ("outline", "triple run"), ("outlineThread", "0"))));
        var parts = Job.Order.Where(p => p.Piece == Job.Pieces[^1].Id).ToList();
        parts.Count.ShouldBe(8);
        Written.CapitalMm.ShouldBe(12.7, 1e-6);
        Written.OutlineThread.ShouldBe(Job.Palette.Threads[0]);
        Box.Around(parts.Select(p => p.Placement.Place(p.Drawn!.Shape.Bounds.Middle))).Middle.DistanceTo(new(20, -15)).ShouldBeLessThan(2);
        Fonts.LastUses.Keys.ShouldBe(["Archivo"], "the font was used");

        // What is only tried counts for nothing.
        await Said(Post("try write", Form(("font", "Bitter"))));
        Fonts.LastUses.Keys.ShouldBe(["Archivo"]);
    }

    [Fact]
    public async Task Letters_follow_the_line_of_a_shape_of_the_job_and_stay_on_it_when_it_is_gone()
    {
        await Said(Post("draw", ("kind", "curve"), ("points", "-60,0 -30,-20 0,0 30,20 60,0")));
        var guide = Job.Order[^1];
        await Said(Post("write", Form(("text", "along the way"), ("height", "8"), ("course", "path"), ("guide", $"{guide.Id.Value}"))));
        var path = ((LetterCourse.OnPath)Written.Wish.Course).Path;
        var line = new MeasuredLine([.. path]);
        foreach (var letter in Written.Shapes) line.PointAt(line.Nearest(letter.At.Place(Point.Zero))).DistanceTo(letter.At.Place(Point.Zero)).ShouldBeLessThan(1.5);
        line.PointAt(0).DistanceTo(new(-60, 0)).ShouldBeLessThan(0.01);

        // On its other side they run back.
        var piece = Job.Pieces[^1].Id.Value.ToString(CultureInfo.InvariantCulture);
        await Said(Post("write", Form(("piece", piece), ("text", "along the way"), ("height", "8"), ("course", "path"), ("guide", $"{guide.Id.Value}"), ("otherWay", "true"))));
        ((LetterCourse.OnPath)Written.Wish.Course).Path[0].DistanceTo(new(60, 0)).ShouldBeLessThan(0.01);

        // The line is taken out; the words still follow it.
        await Said(Post("remove", ("parts", $"{guide.Id.Value}")));
        await Said(Post("write", Form(("piece", piece), ("text", "along the shore"), ("height", "8"), ("course", "path"), ("guide", ""))));
        ((LetterCourse.OnPath)Written.Wish.Course).Path.Length.ShouldBe(path.Length);
    }

    [Fact]
    public async Task Letters_follow_a_line_that_is_drawn_for_them_alone()
    {
        var before = Job.Order.Count;
        await Said(Post("write", Form(("text", "drawn"), ("height", "8"), ("course", "path"), ("guide", "drawn"), ("guideLine", "-40,10 0,-5 40,10"), ("guideClosed", "false"))));
        Job.Order.Count.ShouldBe(before + 5, "the line itself is not sewn");
        var line = new MeasuredLine([.. ((LetterCourse.OnPath)Written.Wish.Course).Path]);
        foreach (var through in new[] { new Point(-40, 10), new Point(0, -5), new Point(40, 10) }) line.PointAt(line.Nearest(through)).DistanceTo(through).ShouldBeLessThan(0.3);

        // Closed, with a loop: letters run around it.
        var piece = Job.Pieces[^1].Id.Value.ToString(CultureInfo.InvariantCulture);
        await Said(Post("write", Form(("piece", piece), ("text", "drawn"), ("height", "8"), ("course", "path"), ("guide", "drawn"), ("guideLine", "-40,0 40,30 -40,30 40,0"), ("guideClosed", "true"))));
        var path = ((LetterCourse.OnPath)Written.Wish.Course).Path;
        path[0].DistanceTo(path[^1]).ShouldBeLessThan(0.001);
    }

    [Fact]
    public async Task A_letter_of_a_script_is_set_by_hand_within_its_word_and_stays_so()
    {
        await Said(Post("write", Form(("text", "Comet"), ("height", "20"), ("font", "Dancing Script"))));
        var (piece, word) = (Job.Pieces[^1].Id.Value.ToString(CultureInfo.InvariantCulture), Job.Order[^1]);
        var touching = Written.Shapes[^1].Name;
        touching.Length.ShouldBeGreaterThan(2, "its letters touch");
        var last = "Comet".Length - 1;
        (await Said(Http.GetAsync($"/jobs/2/part/card?task=letters&parts={word.Id.Value}"))).ShouldContain($"name=\"letter\" value=\"{last}\"");

        var before = Job;
        foreach (var by in new[] { "up", "up", "right", "clockwise", "larger" }) await Said(Post("nudge", ("piece", piece), ("letter", $"{last}"), ("by", by)));
        Written.Wish.Nudges.At(last).ShouldBe(new LetterNudge(0.02, -0.04, 2, 1.03));
        Written.Shapes[^1].Name.ShouldBe(touching, "it is still one with its neighbours");
        Written.Shapes[^1].Shape.ShouldNotBe(((LetteringContent)before.Pieces[^1].Content).Shapes[^1].Shape);

        // The text is edited before it: the letter stays as it was set; put back, all is as if nothing had been.
        await Said(Post("write", Form(("piece", piece), ("text", "A Comet"), ("height", "20"), ("font", "Dancing Script"))));
        Written.Wish.Nudges.All.Select(n => n.At).ShouldBe([last + 2]);
        await Said(Post("nudge", ("piece", piece), ("letter", $"{last + 2}"), ("by", "back")));
        Written.Wish.Nudges.Count.ShouldBe(0);
        foreach (var (letter, by, says) in new[] { ("99", "up", "no longer in this text"), ("-1", "up", "no longer in this text"), ("0", "away", "can be moved") })
            (await Said(Post("nudge", ("piece", piece), ("letter", letter), ("by", by)), HttpStatusCode.UnprocessableEntity)).ShouldContain(says);
    }

    [Fact]
    public async Task Letters_in_a_patterned_fill_keep_its_size_and_angle_when_the_text_is_changed()
    {
        await Said(Post("write", Form(("text", "Iris"), ("height", "40"), ("way", "patterned fill"))));
        var piece = Job.Pieces[^1];
        var parts = string.Join(',', Job.Order.Where(p => p.Piece == piece.Id).Select(p => p.Id.Value));
        foreach (var (field, value) in new[] { ("tile", "diamond"), ("tile-scale", "1.5"), ("tile-angle", "20"), ("angle", "70") }) await Said(Post("restitch", ("parts", parts), ("field", field), ("value", value)));
        var settings = new StitchSettings(StitchWay.PatternedFill) { Tile = "diamond", TileScale = 1.5, TileAngle = 20, Angle = 70 };
        Written.Shapes.ShouldAllBe(s => s.Settings == settings);
        await Said(Post("write", Form(("piece", piece.Id.Value.ToString(CultureInfo.InvariantCulture)), ("text", "Irises"), ("height", "50"), ("way", "patterned fill"))));
        Written.Shapes.Length.ShouldBe(6);
        Written.Shapes.ShouldAllBe(s => s.Settings == settings, "letters that come in are sewn as the others");
    }

    [Fact]
    public async Task A_gap_is_set_kept_for_the_font_and_taken_over_by_an_older_text_when_asked()
    {
        await Said(Post("write", Form(("text", "WAVE"))));
        var (first, name) = (Written, Job.Pieces[^1].Id.Value.ToString(CultureInfo.InvariantCulture));
        await Said(Post("write", Form(("text", "WAVES"))));
        var second = Job.Pieces[^1].Id.Value.ToString(CultureInfo.InvariantCulture);
        await Said(Post("set-gap", ("piece", second), ("left", "W"), ("right", "A"), ("gap", "40")));
        Written.Wish.Pairs.Between("W", "A").ShouldBe(0.4);
        (await Said(PostTo("/jobs/2/part/keep-gap", ("piece", second), ("left", "W"), ("right", "A")))).ShouldContain("Kept: WA in Archivo");
        Fonts.KerningOf("Archivo").Between("W", "A").ShouldBe(0.4);

        // The older text stays as it was made until it is asked, even when it is laid anew.
        await Said(Post("write", Form(("piece", name), ("text", "WAVE"), ("height", "13"))));
        LetteringOf(name).Wish.Pairs.ShouldBe(first.Wish.Pairs);
        await Said(Post("take-gaps", ("piece", name)));
        LetteringOf(name).Wish.Pairs.Between("W", "A").ShouldBe(0.4);
        (await Said(Post("set-gap", ("piece", name), ("left", "W"), ("right", "A"), ("gap", "wide")), HttpStatusCode.UnprocessableEntity)).ShouldContain("not a percentage");
        (await Said(Post("set-gap", ("piece", name), ("left", "W"), ("right", "A"), ("gap", "9000")), HttpStatusCode.UnprocessableEntity)).ShouldContain("nearer to");

        LetteringContent LetteringOf(string piece) => (LetteringContent)Job.Pieces.Single(p => p.Id.Value.ToString(CultureInfo.InvariantCulture) == piece).Content;
    }

    [Fact]
    public async Task Fonts_of_ones_own_come_and_go_on_the_letters_screen()
    {
        async Task<string> Bring(string name, byte[] bytes, HttpStatusCode status)
        {
            using var form = new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", name } };
            return await Said(Http.PostAsync("/letters?handler=Bring", form), status);
        }

        var bytes = await File.ReadAllBytesAsync(InstalledFonts.Find("Bitter")!.Path!, TestContext.Current.CancellationToken);
        (await Bring("../../etc/mine.ttf", bytes, HttpStatusCode.OK)).ShouldContain("Bitter Bold");
        (await Bring("song.ttf", "la la"u8.ToArray(), HttpStatusCode.UnprocessableEntity)).ShouldContain("no font that can be read");
        (await Bring("half.ttf", bytes[..(bytes.Length / 2)], HttpStatusCode.UnprocessableEntity)).ShouldContain("\"says\":");
        (await Http.GetStringAsync("/letters?words=Tamsin")).ShouldContain("data-font=\"Bitter Bold\"");
        (await Http.GetByteArrayAsync("/letters/word.png?font=Bitter+Bold&text=Tamsin")).AsSpan(1, 3).SequenceEqual("PNG"u8).ShouldBeTrue();
        foreach (var nothing in new[] { "word.png?font=Nowhere&text=x", "word.png?font=Archivo&text=%F0%9F%99%82", "pair.png?font=Archivo&left=A&right=V&share=99", "pair.png?font=Archivo&left=&right=V&share=0" })
            (await Http.GetAsync($"/letters/{nothing}")).StatusCode.ShouldBe(HttpStatusCode.NotFound, nothing);

        await Said(Post("write", Form(("font", "Bitter Bold"))));
        (await Said(Post("Remove", "/letters", ("hash", Fonts.Own.Single().Hash)))).ShouldContain("Took Bitter Bold out");
        Written.Shapes.Length.ShouldBe(4, "the text keeps its letters");
        var piece = Job.Pieces[^1].Id.Value.ToString(CultureInfo.InvariantCulture);
        (await Said(Post("write", Form(("piece", piece), ("font", "Bitter Bold"))), HttpStatusCode.UnprocessableEntity)).ShouldContain("is not here");
        var selected = string.Join(',', Job.Order.Where(p => p.Piece == Job.Pieces[^1].Id).Select(p => p.Id.Value));
        (await Said(Http.GetAsync($"/jobs/2/part/card?task=letters&parts={selected}&version=0"))).ShouldContain("is not here: letters sew as they are");
    }

    [Fact]
    public async Task Gaps_of_a_font_are_shown_set_taken_over_and_forgotten()
    {
        var page = WebUtility.HtmlDecode(await Http.GetStringAsync("/letters?font=Graduate&left=A"));
        page.ShouldContain("data-pair=\"AV\"");
        page.ShouldContain("/letters/pair.png?font=Graduate&left=A&right=V&share=");
        (await Said(Post("Set", "/letters", ("font", "Graduate"), ("left", "A"), ("right", "V"), ("gap", "-12.5")))).ShouldContain("by-hand");
        Fonts.KerningOf("Graduate").Between("A", "V").ShouldBe(-0.125);
        await Said(Post("Set", "/letters", ("font", "Graduate"), ("left", "A"), ("right", "V"), ("steps", "1")));
        Fonts.KerningOf("Graduate").Between("A", "V").ShouldBe(-0.105);
        (await Said(Post("Borrow", "/letters", ("font", "Graduate"), ("from", "Libre Baskerville")))).ShouldContain("gaps of Libre Baskerville over");
        Fonts.KerningOf("Graduate").Count.ShouldBeGreaterThan(100);
        Fonts.KerningOf("Graduate").Between("A", "V").ShouldBe(-0.105, "what was set by hand stays");
        await Said(Post("Set", "/letters", ("font", "Graduate"), ("left", "A"), ("right", "V"), ("reset", "true")));
        Fonts.KerningOf("Graduate").Between("A", "V").ShouldBeNull();
        await Said(Post("Forget", "/letters", ("font", "Graduate")));
        Fonts.KerningOf("Graduate").Count.ShouldBe(0);
        (await Said(Post("Set", "/letters", ("font", "Nowhere"), ("left", "A"), ("right", "V"), ("gap", "1")), HttpStatusCode.UnprocessableEntity)).ShouldContain("not here");
    }

    [Fact]
    public async Task The_words_of_a_ring_touch_it_exactly()
    {
        await Said(Post("write", Form(("text", "LARKMOOR OBSERVATORY\nOPEN NIGHT"), ("font", "Lark Small"), ("height", "4"), ("course", "ring"), ("ring", "62"), ("ringStart", "0"))));
        Written.Shapes.SelectMany(s => s.Shape.Paths.SelectMany(p => p.Flattened()).Select(s.At.Place)).Max(p => p.Length).ShouldBe(31, 0.25);
        Written.Shapes.ShouldAllBe(s => s.Settings.OutAndBack);
        Written.Way.ShouldBe(StitchWay.Automatic);
    }
}
