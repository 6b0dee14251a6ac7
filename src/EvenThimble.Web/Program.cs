using EvenThimble.Web;

return await EvenThimbleHost.RunAsync(args);
